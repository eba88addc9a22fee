import type { BondRow, BondSchedule } from '../schedule/bond-schedule.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** A row of a bond by both methods. Minor units. */
export interface MethodsOfRow {
  /** Place among the schedule's rows. */
  readonly index: Count;
  readonly n: Count;
  readonly due: CalendarDay;
  readonly effective: MinorUnits;
  readonly straightLine: MinorUnits;
  /** Straight-line expense less effective. */
  readonly difference: MinorUnits;
  /** The same of the carrying amounts after the row. */
  readonly carryingDifference: MinorUnits;
}

/** Effective interest and straight-line side by side, and how far apart they come. */
export interface MethodComparison {
  readonly rows: readonly MethodsOfRow[];
  /** The row whose expenses lie farthest apart; `undefined` without any. */
  readonly farthest: MethodsOfRow | undefined;
  /** The greatest difference of the carrying amounts, either way. */
  readonly farthestCarrying: MinorUnits;
}

/** The bond by the effective method, issue costs too unless its terms spread them evenly. */
function byEffective(terms: BondTerms): BondTerms {
  if (terms.method === 'effective') return terms;
  const { issueCosts } = terms;
  return {
    ...terms,
    method: 'effective',
    ...(issueCosts && { issueCosts: { ...issueCosts, method: 'effective' } }),
  };
}

/** The bond by straight-line, issue costs too. */
function byStraightLine(terms: BondTerms): BondTerms {
  const { issueCosts } = terms;
  return {
    ...terms,
    method: 'straight-line',
    ...(issueCosts && { issueCosts: { ...issueCosts, method: 'straight-line' } }),
  };
}

/**
 * A bond by both methods, row by row, so that it can be judged whether straight-line is close enough: it may be used
 * where the result is not materially different from the effective method's (ASC 835-30-35-4).
 *
 * @example
 * compareMethods(bond).rows.length // 10
 */
export function compareMethods({ terms }: BondSchedule): MethodComparison {
  const effective = buildBondSchedule(byEffective(terms));
  const straight = buildBondSchedule(byStraightLine(terms));
  const rows = effective.rows.flatMap((row, index): MethodsOfRow[] => {
    const other = straight.rows[index] as BondRow;
    if (row.kind === 'issue') return [];
    return [
      {
        index,
        n: row.n,
        due: row.due,
        effective: row.expense,
        straightLine: other.expense,
        difference: other.expense - row.expense,
        carryingDifference: other.closing - row.closing,
      },
    ];
  });
  const farthest = rows.reduce<MethodsOfRow | undefined>(
    (most, row) => (most && Math.abs(most.difference) >= Math.abs(row.difference) ? most : row),
    undefined,
  );
  const farthestCarrying = Math.max(0, ...rows.map((row) => Math.abs(row.carryingDifference)));
  return { rows, farthest, farthestCarrying };
}
