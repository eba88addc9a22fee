import type { RowKind } from '@coffer/core';

const words: Readonly<Record<RowKind, string>> = {
  payment: '',
  extra: 'extra',
  'late-payment': 'late payment',
  'early-payment': 'paid early',
  'overdue-payment': 'late, with interest',
  draw: 'drawn',
  'interest-added': 'interest added',
  settlement: 'settled',
  'overpayment-returned': 'overpayment back',
};

/** What a row between payments is, in words; one of another kind by its own name. */
export function rowWords(kind: unknown): string {
  const name = String(kind);
  return name in words ? words[name as RowKind] : name;
}
