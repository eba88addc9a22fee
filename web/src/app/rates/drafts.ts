import { indexKey, isSameRate, type KeptIndex } from '@coffer/contract';

/** A fixing that is to be kept; one without a rate is to be taken back. */
export interface DraftFixing {
  readonly on: string;
  readonly rate: string | null;
}

/** Fixings of an index that were typed, read or fetched, and are not kept. */
export interface Draft {
  readonly index: string;
  readonly source: 'typed' | 'sheet' | 'service';
  readonly fixings: readonly DraftFixing[];
}

/** Drafts by the key of their index. */
export type Drafts = ReadonlyMap<string, Draft>;

/**
 * The drafts with fixings added to one of them: a day that is drafted already gets the newer value, one that says what is
 * kept is no draft. A draft without fixings goes.
 */
export function withFixings(drafts: Drafts, added: Draft, kept: KeptIndex['fixings']): Drafts {
  const key = indexKey(added.index);
  const was = drafts.get(key);
  const stands = new Map(kept.map(({ on, rate }) => [on, rate]));
  const byDay = new Map((was?.fixings ?? []).map(({ on, rate }) => [on, rate]));
  for (const { on, rate } of added.fixings) {
    const known = stands.get(on);
    const same = rate === null ? known === undefined : known !== undefined && isSameRate(known, rate);
    if (same) byDay.delete(on);
    else byDay.set(on, rate);
  }
  const next = new Map(drafts);
  const fixings = [...byDay].sort(([a], [b]) => b.localeCompare(a)).map(([on, rate]) => ({ on, rate }));
  if (fixings.length === 0) next.delete(key);
  else next.set(key, { index: was?.index ?? added.index, source: added.source, fixings });
  return next;
}

/** A draft without one of its days. */
export function withoutDay(drafts: Drafts, key: string, on: string): Drafts {
  const draft = drafts.get(key);
  const next = new Map(drafts);
  const fixings = draft?.fixings.filter((each) => each.on !== on) ?? [];
  if (!draft || fixings.length === 0) next.delete(key);
  else next.set(key, { ...draft, fixings });
  return next;
}
