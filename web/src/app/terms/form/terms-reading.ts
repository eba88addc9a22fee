import { computed, signal, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Fault, PublishedIndexes } from '@coffer/contract';
import { map } from 'rxjs';
import type { KeptEvent } from './part-of-form';
import { faultsInWords, inFieldNames, missingFields } from './missing-fields';
import type { TermsForm, TypedTerms } from './terms-form';
import { typedDocument, type TypedDocument } from './typed-document';

/** What is typed, read as a document, and what is wrong or missing in it. Made where things can be injected. */
export class TermsReading {
  /** What working the terms out found wrong, and what saving them did. */
  readonly worked = signal<readonly Fault[]>([]);
  readonly refused = signal<readonly Fault[]>([]);
  readonly typed: Signal<TypedTerms>;
  readonly document = computed(() =>
    typedDocument(this.typed(), this.currency(), this.kept(), this.published()),
  );
  private readonly faults = computed(() => [...this.document().faults, ...this.worked(), ...this.refused()]);
  readonly missing = computed(() => missingFields(this.document(), this.typed().loan));
  readonly wrong = computed(() => faultsInWords(this.faults(), this.document(), this.typed().loan));
  /** Why what is typed now makes no schedule yet. A name is not needed for one. */
  readonly pending = computed(() => {
    const needed = this.missing().filter((name) => name !== 'name');
    return [...this.wrong(), ...(needed.length > 0 ? [`Still needed: ${needed.join(', ')}.`] : [])];
  });
  readonly stale = computed(() => this.pending().length > 0);
  /** Faults of no field on the page. */
  readonly elsewhere = computed(() =>
    this.faults().filter(({ key }) => key === '' || key === 'currency' || key === 'payments.phases'),
  );

  constructor(
    private readonly form: TermsForm,
    private readonly currency: Signal<string>,
    private readonly kept: Signal<readonly KeptEvent[]>,
    private readonly published: Signal<PublishedIndexes>,
  ) {
    this.typed = toSignal(form.valueChanges.pipe(map(() => form.getRawValue())), {
      initialValue: form.getRawValue(),
    });
  }

  /** The document of what stands in the form at this moment, before the page has drawn it. */
  ofNow(): TypedDocument {
    return typedDocument(this.form.getRawValue(), this.currency(), this.kept(), this.published());
  }

  /** What is wrong with the field of a key; empty fields are only spoken of once saving was `asked` for. */
  fault(key: string, asked: boolean): string {
    const fault = this.faults().find((candidate) => candidate.key === key);
    if (fault) return inFieldNames(fault.message, this.document().eventKeys, this.typed().loan);
    return asked && this.document().missing.includes(key) ? 'Needed.' : '';
  }
}
