import type { PlainInstrument, PlainPayment } from '../plain/plain-stand.ts';
import type { Draw } from './drawn.ts';

/** The open month, days since 1970. */
export interface OpenMonth {
  readonly opens: number;
  readonly ends: number;
}

/** What a preparer does with an instrument, and what the instrument then is. */
export type Move<Of extends PlainInstrument> = {
  readonly to: Of;
  /** Words of the refusal that it may rightly meet. */
  readonly mayMeet?: string;
} & (
  | { readonly does: 'put' }
  | {
      readonly does: 'pay';
      readonly payment: PlainPayment;
      /** Beside what is recorded for the due, or in its place. */
      readonly as?: 'adds' | 'corrects';
    }
  | { readonly does: 'take-back'; readonly payment: PlainPayment }
);

/** How instruments of a kind begin, and what befalls them in a month. */
export interface Player<Of extends PlainInstrument> {
  begin(draw: Draw, name: string, month: OpenMonth, booksFrom: number): Of;
  /** `undefined` where there is nothing to do. */
  move(draw: Draw, plain: Of, month: OpenMonth): Move<Of> | undefined;
}
