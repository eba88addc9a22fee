import type { ElementRef } from '@angular/core';

/** Puts the cursor where typing goes on; each waits until what was just added is drawn. */
export class FormFocus {
  constructor(private readonly host: ElementRef<HTMLElement>) {}

  private fields(): HTMLInputElement[] {
    return [...this.host.nativeElement.querySelectorAll<HTMLInputElement>('form coffer-typed-field input')];
  }

  /** The first field of a stretch or an event, brought into view. */
  first(id: string): void {
    setTimeout(() => {
      const section = this.host.nativeElement.querySelector(`#${id}`);
      section?.scrollIntoView({ block: 'nearest' });
      section?.querySelector<HTMLElement>('mat-select, input, textarea')?.focus();
    });
  }

  /** A new instrument begins with its name. */
  name(): void {
    setTimeout(() => {
      if (!this.isTyping()) this.fields()[0]?.focus({ preventScroll: true });
    });
  }

  /** What is begun goes on at the first field that is still to be typed. */
  firstEmpty(): void {
    setTimeout(() => {
      if (this.isTyping()) return;
      this.fields()
        .find(({ value }) => value === '')
        ?.focus();
    });
  }

  /** Whoever has begun to type meanwhile keeps the cursor where it is. */
  private isTyping(): boolean {
    const at = document.activeElement;
    return at instanceof HTMLInputElement && this.host.nativeElement.contains(at);
  }

  /** What keeps terms from being saved is brought into view, wherever the form stands, with the cursor in it. */
  firstFault(): void {
    setTimeout(() => {
      const field = this.host.nativeElement.querySelector<HTMLElement>('form .faulty');
      field?.closest('details')?.setAttribute('open', '');
      field?.scrollIntoView({ block: 'center' });
      field?.querySelector<HTMLElement>('input, mat-select, textarea')?.focus({ preventScroll: true });
    });
  }
}
