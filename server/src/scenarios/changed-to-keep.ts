import type { ClosedMonths } from '../periods/period-store.ts';
import { changeable, keepable, type Keepable } from '../instruments/read-to-keep.ts';
import { changedOf, type WithChange } from './changed-instrument.ts';

/** Makes a scenario's change to an instrument, so that it can be kept as its next version. */
export function changedToKeep(
  item: WithChange & { readonly reported: boolean },
  closed: ClosedMonths,
): Keepable {
  const changed = changedOf(item);
  if (!changed.ok) return changed;
  const { version, reported } = item;
  return reported
    ? changeable(changed.instrument, version, closed)
    : keepable(version.id, changed.instrument, version, closed);
}
