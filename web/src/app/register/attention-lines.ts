import { assumedPaid, showDay, type Attention, type UnrecordedPayment } from '@coffer/contract';

/** Something that somebody should see to, as lists show it. */
export interface AttentionLine {
  readonly instrumentId: string;
  readonly name: string;
  readonly on: string;
  readonly tone: 'wrong' | 'flag';
  /** Why, in a word or two. */
  readonly word: string;
  /** What that means, where the word does not say it. */
  readonly tip?: string;
  /** The page where it is seen to, where that is not the instrument's own. */
  readonly cure?: string;
}

const words: Readonly<Record<Attention['kind'], string>> = {
  'fixing-due': 'fixing due',
  overpaid: 'overpaid',
  'renewal-near': 'renewal near',
  'instalment-near': 'instalment near',
  matures: 'matures',
};

/** What somebody should see to: payments to record first, then what is due or near. */
export function attentionLines(
  unrecorded: readonly UnrecordedPayment[],
  attention: readonly Attention[],
): AttentionLine[] {
  return [
    ...unrecorded.map(({ instrumentId, name, due }): AttentionLine => ({
      instrumentId,
      name,
      on: showDay(due),
      tone: 'wrong',
      word: assumedPaid.text,
      tip: assumedPaid.tip,
    })),
    ...attention.map(({ instrumentId, name, kind, on }): AttentionLine => ({
      instrumentId,
      name,
      on: showDay(on),
      tone: 'flag',
      word: words[kind],
      ...(kind === 'fixing-due' && { cure: '/rates' }),
    })),
  ];
}
