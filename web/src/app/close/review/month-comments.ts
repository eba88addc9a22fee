import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import type { MonthComment } from '@coffer/contract';
import { MomentPipe } from '../../figures/moment.pipe';

/** What was said about a line of a month or about the whole of it, and a place to answer. */
@Component({
  selector: 'coffer-month-comments',
  imports: [FormsModule, MatButtonModule, MomentPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (comment of comments(); track $index) {
      <p>
        <strong>{{ comment.by ?? 'Coffer' }}</strong> {{ comment.text }}
        <span class="dim">{{ comment.at | moment }}</span>
      </p>
    }
    @if (writing()) {
      <form (submit)="$event.preventDefault(); send()">
        <textarea
          #box
          rows="2"
          name="text"
          maxlength="2000"
          [attr.aria-label]="'Say something about ' + about()"
          [(ngModel)]="text"
          (keydown.escape)="leave($event)"
          (keydown.control.enter)="send()"
        ></textarea>
        <button matButton="outlined" type="submit" [disabled]="text.trim() === ''">Say it</button>
      </form>
    } @else if (mayComment()) {
      <button matButton class="begin" (click)="writes.set(true)">
        {{ comments().length ? 'Answer' : 'Say something' }}
        @if (byKey()) {
          <kbd>c</kbd>
        }
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--space-2);
      justify-items: start;
    }
    p {
      white-space: pre-line;
    }
    form {
      display: flex;
      align-items: end;
      gap: var(--space-4);
      width: 100%;
      max-width: 560px;
    }
    textarea {
      flex: 1;
      background: var(--sheet);
    }
    .begin {
      margin-left: -12px;
    }
  `,
})
export class MonthComments {
  readonly comments = input.required<readonly MonthComment[]>();
  readonly mayComment = input(false);
  /** Somebody asked to write by the keyboard. */
  readonly typing = input(false);
  /** Whether the key `c` begins it, too. */
  readonly byKey = input(false);
  readonly about = input.required<string>();
  readonly said = output<string>();
  /** Nothing is said after all. */
  readonly left = output();
  protected readonly writes = signal(false);
  protected text = '';
  private readonly box = viewChild<ElementRef<HTMLTextAreaElement>>('box');

  constructor() {
    afterRenderEffect(() => this.box()?.nativeElement.focus());
  }

  protected writing(): boolean {
    return this.mayComment() && (this.writes() || this.typing());
  }

  protected send(): void {
    const text = this.text.trim();
    if (text === '') return;
    this.text = '';
    this.writes.set(false);
    this.said.emit(text);
  }

  protected leave(event: Event): void {
    event.stopPropagation();
    if (this.text.trim() !== '') return;
    this.writes.set(false);
    this.left.emit();
  }
}
