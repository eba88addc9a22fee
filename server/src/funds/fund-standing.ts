import { firstDay, formatDay, fundEnd, fundPosition, type CalendarDay } from '@coffer/core';
import type { FundFigures, FundRowView } from '@coffer/contract';
import type { StoredVersion, Worked } from '../instruments/known-instruments.ts';
import { workedOutFund, type KnownFund } from './known-fund.ts';

/** A fund, with the figures that a closed period reported of it. */
export interface ReportedFund {
  readonly version: StoredVersion;
  readonly figures?: FundFigures;
}

/** The figures of a fund on a day. */
export function fundFiguresOn({ schedule }: Pick<KnownFund, 'schedule'>, day: CalendarDay): FundFigures {
  const { balance, accruedInterest, deposited, earned, toGoal } = fundPosition(schedule, day);
  return { balance, accruedInterest, deposited, earned, toGoal };
}

/** A fund in the register on a day; nothing before it begins and once it is paid out. */
export function fundStanding(
  { version, figures }: ReportedFund,
  { day }: { readonly day: CalendarDay },
): Worked<Omit<FundRowView, 'repaysId' | 'owed'> | undefined> {
  return workedOutFund(version, (fund) => {
    const { id, document, schedule } = fund;
    if (firstDay(schedule) > day || (figures === undefined && fundEnd(schedule) <= day)) return undefined;
    const { next } = fundPosition(schedule, day);
    return {
      id,
      version: fund.version,
      name: document.name,
      lender: document.lender ?? null,
      repays: document.for ?? null,
      rate: document.rate.annual,
      ends: formatDay(fundEnd(schedule)),
      next: next && { due: formatDay(next.due), deposit: next.deposit },
      figures: figures ?? fundFiguresOn(fund, day),
    };
  });
}
