import type { ClosedMonths } from '../instruments/ask-about-closed.ts';
import { changeable, type Keepable } from '../instruments/read-to-keep.ts';
import { changedOf, type WithChange } from './changed-instrument.ts';

/** Makes a scenario's change to an instrument, so that it can be kept as its next version. */
export function changedToKeep(item: WithChange, closed: ClosedMonths): Keepable {
  const changed = changedOf(item);
  return changed.ok ? changeable(item.version.id, changed.instrument, item.version, closed) : changed;
}
