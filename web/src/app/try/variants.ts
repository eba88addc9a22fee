import { computed, inject, Injectable, signal } from '@angular/core';
import type { InstrumentChange, TermsChange } from '@coffer/contract';
import type { OpenInstrument } from '../instrument/instruments.service';
import { ScenarioDesk, type DeskScenario, type NamedChange } from '../scenarios/scenario-desk';
import { KeptInBrowser } from '../session/kept-in-browser';
import { readChange, typedOf, noChange, type TypedChange } from './typed-variant';

/** A scenario as far as it changes the loan that is open. */
export interface Variant {
  readonly scenario: DeskScenario;
  /** Told from the others here by its letter. */
  readonly letter: string;
  readonly ways: InstrumentChange;
}

/** The scenarios that change the loan that is open, and changes of them. */
@Injectable()
export class Variants {
  private readonly desk = inject(ScenarioDesk);
  private readonly browser = inject(KeptInBrowser);
  private readonly instrument = signal<OpenInstrument | undefined>(undefined);
  /** Variants of this loan that a browser keeps from before there were scenarios. */
  readonly left = signal<readonly TypedChange[]>([]);
  /** The scenario that is typed into; none while a new one is begun. */
  readonly chosenKey = signal<string | undefined>(undefined);
  readonly all = computed((): readonly Variant[] => {
    const id = this.instrument()?.id;
    const found = this.desk.scenarios().flatMap((scenario) => {
      const ways = scenario.changes.find(({ instrumentId }) => instrumentId === id);
      return ways ? [{ scenario, ways }] : [];
    });
    return found.map((variant, at) => ({ ...variant, letter: String.fromCharCode(65 + (at % 26)) }));
  });
  readonly chosen = computed(() => this.all().find(({ scenario }) => scenario.key === this.chosenKey()));

  /** Looks at another loan: at the scenario that is looked at elsewhere, or the first that changes it. */
  open(instrument: OpenInstrument): void {
    this.instrument.set(instrument);
    const all = this.all();
    const elsewhere = all.find(({ scenario }) => scenario.key === this.desk.chosenKey());
    this.chosenKey.set((elsewhere ?? all[0])?.scenario.key);
    const kept = this.browser.restore('tried', instrument.id, (was) =>
      (was as { typed: Partial<TypedChange> }[]).map(({ typed }) => ({ ...noChange, ...typed })),
    );
    const changing = (kept ?? []).filter((typed) => Object.keys(readChange(typed).change).length > 0);
    this.left.set(changing);
  }

  /** Sets what the chosen scenario changes of the loan, or begins one with it. */
  set(change: TermsChange): void {
    const named = this.named();
    if (!named) return;
    const chosen = this.chosen();
    if (chosen)
      this.desk.changeInstrument(chosen.scenario.key, named.instrumentId, {
        ...named,
        ...chosen.ways,
        change,
      });
    else this.chosenKey.set(this.desk.start([{ ...named, change }]));
  }

  /** Another scenario beside the others. */
  add(change: TermsChange): void {
    const named = this.named();
    if (named) this.chosenKey.set(this.desk.start([{ ...named, change }]));
  }

  /** Chooses the first one that is left, after the chosen one is gone. */
  chooseFirst(): void {
    this.chosenKey.set(this.all()[0]?.scenario.key);
  }

  /** Takes over what the browser kept, as scenarios; or lets it go. */
  takeOver(taken: boolean): void {
    const instrument = this.instrument();
    if (!instrument) return;
    if (taken) for (const typed of this.left()) this.add(readChange(typed).change);
    this.browser.forget('tried', instrument.id);
    this.left.set([]);
  }

  private named(): NamedChange | undefined {
    const instrument = this.instrument();
    if (!instrument) return undefined;
    const { id: instrumentId, version } = instrument;
    return { instrumentId, version, name: instrument.read.document.name };
  }
}

/** The fields of a variant as they would be typed. */
export function typedVariant(variant: Variant | undefined): TypedChange {
  return variant?.ways.change ? typedOf(variant.ways.change) : noChange;
}
