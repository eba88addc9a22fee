import { addMonths, BeyondExact, firstDay, formatDay, lastDay, overBudget, position } from '@coffer/core';
import type { Fault, ReadInstrument } from '@coffer/contract';
import { failingProof } from './known-instruments.ts';

/** Months after its last payment through which an instrument is looked at before it is kept. */
const horizon = 120;

/**
 * What keeps an instrument from being taken on or changed into, besides faults of its terms: more work than one
 * instrument may take, a proof that fails, or amounts that on some day of its life, or in the ten years after, cannot be
 * kept exactly.
 */
export function whyNotKept({ schedule }: Pick<ReadInstrument, 'schedule'>): Fault[] {
  const tooMuch = overBudget(schedule);
  if (tooMuch !== undefined) return [{ key: 'events', message: tooMuch }];
  const failing = failingProof({ schedule });
  if (failing) {
    const message = `A proof of its schedule fails, so it cannot be kept: not so is "${failing.name}".`;
    return [{ key: '', message }];
  }
  const begins = firstDay(schedule);
  const ends = lastDay(schedule);
  for (const on of [begins, Math.floor((begins + ends) / 2), ends, addMonths(ends, horizon, true)]) {
    try {
      position(schedule, on);
    } catch (error) {
      if (!(error instanceof BeyondExact)) throw error;
      return [{ key: 'amount', message: `On ${formatDay(on)}: ${error.message}` }];
    }
  }
  return [];
}
