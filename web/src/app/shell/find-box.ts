import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import {
  MatAutocompleteModule,
  MatAutocompleteTrigger,
  type MatAutocompleteSelectedEvent,
} from '@angular/material/autocomplete';
import { Router } from '@angular/router';
import { loaded } from '../api/loaded';
import { AsOfService } from '../company/as-of.service';
import { RegisterService } from '../register/register.service';
import { formatDay, monthEnd } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { readDay } from '../typed/typed-day';
import { pages } from './pages';

interface Found {
  readonly name: string;
  readonly kind: string;
  readonly path?: string;
  readonly date?: string;
}

const most = 8;

/** Finds an instrument, a page, or a date to stand at. */
@Component({
  selector: 'coffer-find-box',
  imports: [MatAutocompleteModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      type="search"
      placeholder="Find an instrument, page or date"
      aria-label="Find an instrument, page or date"
      [matAutocomplete]="list"
      (focus)="ask()"
      (input)="type(box.value)"
      (keydown.enter)="enter()"
      (blur)="waiting = false"
    />
    <kbd aria-hidden="true">/</kbd>
    <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption (optionSelected)="chosen($event)">
      @for (found of matches(); track found.name) {
        <mat-option [value]="found">
          {{ found.name }} <span class="dim">{{ found.kind }}</span>
        </mat-option>
      }
    </mat-autocomplete>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
    }
    input {
      width: 100%;
      height: 31px;
      border: 0;
      border-radius: 6px;
      padding: 0 var(--space-10) 0 var(--space-6);
      background: var(--header-field);
      color: var(--header-ink);
      font: var(--text-body) var(--sans);
    }
    input::placeholder {
      color: var(--header-ink-2);
    }
    input:focus-visible {
      outline: 2px solid var(--interest-pale);
    }
    kbd {
      position: absolute;
      right: 11px;
      top: 5px;
      font: var(--text-body) var(--sans);
      color: var(--header-ink-2);
    }
  `,
})
export class FindBox {
  private readonly router = inject(Router);
  private readonly asOf = inject(AsOfService);
  private readonly register = inject(RegisterService);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  private readonly trigger = viewChild.required(MatAutocompleteTrigger);
  protected readonly text = signal('');
  private readonly asked = signal(false);
  /** Pages and dates are found without the register; its own page says what is wrong with it. */
  private readonly loaded = loaded(
    computed(() => (this.asked() && this.asOf.date() !== '' ? this.asOf.date() : undefined)),
    (date) => this.register.on(date),
  );
  private readonly instruments = computed((): Found[] =>
    (this.loaded.value()?.rows ?? []).map(({ id, name, lender }) => ({
      name,
      kind: lender ?? '',
      path: `/instruments/${id}`,
    })),
  );
  /** Whether the instruments came, or could not. */
  private readonly known = computed(() => this.loaded.value() !== undefined || this.loaded.failed() !== '');
  /** Enter was pressed before they came. */
  protected waiting = false;

  constructor() {
    effect(() => {
      if (this.known() && this.waiting) untracked(() => this.enter());
    });
  }

  protected readonly matches = computed((): Found[] => {
    const wanted = this.text().trim().toLowerCase();
    const places = pages.map(({ name, path }) => ({ name, kind: 'page', path }));
    const found = [...this.instruments(), ...places].filter(({ name }) =>
      name.toLowerCase().includes(wanted),
    );
    const day = wanted === '' ? undefined : readDay(wanted);
    const end = day === undefined ? undefined : monthEnd(day);
    const date =
      end === undefined
        ? []
        : [{ name: showDay(end), kind: 'stand at this period end', date: formatDay(end) }];
    return [...date, ...found].slice(0, most);
  });

  focus(): void {
    this.box().nativeElement.focus();
    this.box().nativeElement.select();
  }

  /** Asked for anew each time that somebody begins to look: an instrument may have been taken on meanwhile. */
  protected ask(): void {
    if (this.asked()) this.loaded.again();
    this.asked.set(true);
  }

  protected type(text: string): void {
    this.text.set(text);
    this.waiting = false;
  }

  /** What the list held a moment ago may be marked still; then what now stands first is meant. */
  protected chosen({ option }: MatAutocompleteSelectedEvent): void {
    const matches = this.matches();
    const found = matches.find((each) => each === option.value) ?? matches[0];
    if (found) this.go(found);
  }

  /** Enter takes what is marked in the list, or what will stand first when the list has caught up with the text. */
  protected enter(): void {
    const { panelOpen, activeOption } = this.trigger();
    const marked = panelOpen ? (activeOption?.value as Found | undefined) : undefined;
    const matches = this.matches();
    const [first] = this.text() === '' ? [] : matches;
    const found = marked && matches.includes(marked) ? marked : first;
    this.waiting = !this.known() && this.text() !== '';
    if (found && !this.waiting) this.go(found);
  }

  private go({ path, date }: Found): void {
    if (date !== undefined) this.asOf.choose(date);
    if (path !== undefined) void this.router.navigateByUrl(path);
    this.box().nativeElement.value = '';
    this.text.set('');
    this.trigger().closePanel();
    this.box().nativeElement.blur();
  }
}
