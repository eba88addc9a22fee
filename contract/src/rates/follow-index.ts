import { compareRatios, cycleDate, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import type { RateDocument } from '../document/rate-document.ts';
import { rateOf } from '../document/rate-terms-of.ts';

/** A value of an index as published: annual, such as `2.645%`, from its day on. */
export interface Published {
  readonly on: string;
  readonly rate: string;
}

/** A fixing that an instrument takes over: what it had for the day before, and what it has then; null for none. */
export interface TakenFixing {
  readonly on: string;
  readonly rate: string | null;
  readonly was: string | null;
}

/** A day for which an instrument has a fixing of its own, which stays. */
export interface OwnFixing {
  readonly on: string;
  readonly own: string;
  readonly published: string;
}

/** What of a document says how its rate follows an index. */
export interface FloatingTerms {
  readonly start: string;
  readonly rate: {
    readonly annual?: string | undefined;
    readonly index?: Pick<IndexDocument, 'name' | 'resetEvery' | 'fixings'> | undefined;
  };
  readonly payments?: { readonly monthEnd?: boolean | undefined } | undefined;
}

/** What following an index makes of an instrument. */
export interface Followed<Document> {
  readonly document: Document;
  readonly taken: readonly TakenFixing[];
  readonly own: readonly OwnFixing[];
}

type IndexDocument = NonNullable<RateDocument['index']>;

/** The name of an index as names are compared: neither spaces nor capitals tell two apart. */
export function indexKey(name: string): string {
  return name.trim().replace(/\s+/g, ' ').toLowerCase();
}

/**
 * The document with the fixings that it takes from an index.
 *
 * An agreement that is reset at intervals takes on each reset day the last value published by then, once a value of that
 * day or of a later one shows that none is missing (common practice: a day without publication has the value before it).
 * One that is not follows each value from its own day, beginning with the last one published by the start. Where a rate is
 * agreed, it holds until the first of them after the start. A fixing that
 * the document has already stays, unless it was taken from the index as it was `before`; what the index has no more goes.
 *
 * @param until the last day on which a fixing matters, such as `2030-06-15`
 */
export function followIndex<Document extends FloatingTerms>(
  document: Document,
  before: readonly Published[],
  after: readonly Published[],
  until: string,
): Followed<Document> | undefined {
  const { index } = document.rate;
  if (!index) return undefined;
  const [stood, stands] = [before, after].map((published) => valuesFor(document, published, until));
  const fixings = new Map(index.fixings.map(({ on, rate }) => [on, rate]));
  const taken: TakenFixing[] = [];
  const own: OwnFixing[] = [];
  for (const [on, rate] of stands ?? []) {
    const was = fixings.get(on);
    if (was !== undefined && isSameRate(was, rate)) continue;
    const from = stood?.get(on);
    if (was === undefined || (from !== undefined && isSameRate(was, from))) {
      fixings.set(on, rate);
      taken.push({ on, rate, was: was ?? null });
    } else own.push({ on, own: was, published: rate });
  }
  for (const [on, from] of stood ?? []) {
    const was = fixings.get(on);
    if (stands?.has(on) || was === undefined || !isSameRate(was, from)) continue;
    fixings.delete(on);
    taken.push({ on, rate: null, was });
  }
  const inOrder = [...fixings].sort(([a], [b]) => a.localeCompare(b)).map(([on, rate]) => ({ on, rate }));
  const followed = { ...index, fixings: taken.length > 0 ? inOrder : index.fixings };
  return { document: { ...document, rate: { ...document.rate, index: followed } }, taken, own };
}

/** Whether two rates are the same, however many decimals they are written with. */
export function isSameRate(one: string, other: string): boolean {
  return compareRatios(rateOf(one), rateOf(other)) === 0;
}

/** The values of an index that an agreement takes, by day. */
function valuesFor(
  document: FloatingTerms,
  published: readonly Published[],
  until: string,
): Map<string, string> {
  const { start } = document;
  const every = document.rate.index?.resetEvery;
  const inOrder = [...published].sort((a, b) => a.on.localeCompare(b.on));
  const lastBy = (day: string): Published | undefined => inOrder.findLast(({ on }) => on <= day);
  const values = new Map<string, string>();
  const isAgreed = document.rate.annual !== undefined;
  if (!every) {
    const first = isAgreed ? undefined : lastBy(start);
    const later = inOrder.filter(({ on }) => on > start && on <= until);
    for (const { on, rate } of first ? [first, ...later] : later) values.set(on, rate);
    return values;
  }
  // A line has no payments agreed and is billed on month ends.
  const keepMonthEnd = document.payments ? (document.payments.monthEnd ?? false) : true;
  const cycle = { anchor: parseDay(start) as CalendarDay, every, keepMonthEnd };
  const through = [until, inOrder.at(-1)?.on ?? ''].sort()[0] ?? '';
  for (let at = isAgreed ? 1 : 0; ; at += 1) {
    const reset = formatDay(cycleDate(cycle, at));
    if (reset > through) return values;
    const value = lastBy(reset);
    if (value) values.set(reset, value.rate);
  }
}
