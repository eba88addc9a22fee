import type { BusinessDaysDocument } from '../kinds/loan/loan-document.ts';

/** What of a document says which days are closed. */
interface ClosedDaysTerms {
  readonly start: string;
  readonly businessDays?: BusinessDaysDocument | undefined;
  readonly payments?: { readonly businessDays?: BusinessDaysDocument | undefined } | undefined;
}

/** The closed days of a company. */
export interface CompanyClosedDays {
  /** As they are kept. */
  readonly now: readonly string[];
  /** Every day that was kept at some time, those of now as well. */
  readonly ever: readonly string[];
}

/** What taking a company's closed days makes of an instrument. */
export interface TakenClosedDays<Document> {
  readonly document: Document;
  /** Whether it has had closed days of the company before. */
  readonly follows: boolean;
  readonly added: readonly string[];
  readonly removed: readonly string[];
}

/**
 * The document with a company's closed days besides those of its own: what the company has no more goes, what it has now
 * comes, within the instrument's life. `undefined` where due dates of the instrument do not move, or nothing changes.
 *
 * @param until the last day that matters, such as `2030-06-15`
 */
export function takeClosedDays<Document extends ClosedDaysTerms>(
  document: Document,
  { now, ever }: CompanyClosedDays,
  until: string,
): TakenClosedDays<Document> | undefined {
  const moving = document.businessDays ?? document.payments?.businessDays;
  if (!moving) return undefined;
  const had = moving.closed ?? [];
  const [kept, known] = [new Set(now), new Set(ever)];
  const within = (day: string): boolean => day > document.start && day <= until;
  const removed = had.filter((day) => known.has(day) && !kept.has(day));
  const added = now.filter((day) => within(day) && !had.includes(day));
  if (removed.length + added.length === 0) return undefined;
  const { closed: _, ...rule } = moving;
  const closed = [...had.filter((day) => !removed.includes(day)), ...added].sort();
  const businessDays = closed.length === 0 ? rule : { ...rule, closed };
  return {
    document: document.businessDays
      ? { ...document, businessDays }
      : { ...document, payments: { ...document.payments, businessDays } },
    follows: had.some((day) => known.has(day)),
    added,
    removed,
  };
}
