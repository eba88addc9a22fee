import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChildren,
} from '@angular/core';
import { openPdf, type OpenPdf } from './open-pdf';

/** The pages of a PDF as pictures, each drawn as it comes into view. */
@Component({
  selector: 'coffer-pdf-pages',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failed(); as message) {
      <p class="notice wrong" role="alert">{{ message }}</p>
    } @else {
      @for (page of pages(); track page) {
        <canvas
          #sheet
          role="img"
          [attr.data-page]="page"
          [attr.aria-label]="'Page ' + page + ' of ' + pages().length + ', ' + name()"
        ></canvas>
      } @empty {
        <p class="dim late" role="status">Opening {{ name() }}…</p>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--space-6);
    }
    canvas {
      width: 100%;
      aspect-ratio: 210 / 297;
      background: #ffffff;
      border: 1px solid var(--line-2);
    }
  `,
})
export class PdfPages {
  readonly address = input.required<string>();
  readonly name = input.required<string>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly sheets = viewChildren<ElementRef<HTMLCanvasElement>>('sheet');
  protected readonly pages = signal<readonly number[]>([]);
  protected readonly failed = signal('');
  private opened: OpenPdf | undefined;
  private readonly seen = new IntersectionObserver((entries) => {
    for (const { isIntersecting, target } of entries)
      if (isIntersecting) this.draw(target as HTMLCanvasElement);
  });

  constructor() {
    effect(() => {
      const address = this.address();
      void this.open(address);
    });
    effect(() => {
      for (const { nativeElement } of this.sheets()) this.seen.observe(nativeElement);
    });
    inject(DestroyRef).onDestroy(() => {
      this.seen.disconnect();
      void this.opened?.close();
    });
  }

  private async open(address: string): Promise<void> {
    this.seen.disconnect();
    this.pages.set([]);
    this.failed.set('');
    const before = this.opened;
    this.opened = undefined;
    await before?.close();
    try {
      const opened = await openPdf(address);
      if (address !== this.address()) {
        await opened.close();
        return;
      }
      this.opened = opened;
      this.pages.set(Array.from({ length: opened.pages }, (_, at) => at + 1));
    } catch (error) {
      const asks = error instanceof Error && error.name === 'PasswordException';
      this.failed.set(
        asks
          ? 'This PDF asks for a password; save it and open it with a program that you trust.'
          : 'This PDF cannot be shown: it is broken, or of a kind that is not read here. It can still be saved.',
      );
    }
  }

  private draw(canvas: HTMLCanvasElement): void {
    this.seen.unobserve(canvas);
    const width = this.host.nativeElement.clientWidth;
    this.opened?.draw(Number(canvas.dataset['page']), canvas, width).catch(() => {
      this.failed.set(`A page of ${this.name()} cannot be drawn; save it to read it.`);
    });
  }
}
