import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { AccountRole } from '../entries/account-role.ts';
import { entryOf, inOrder, type Entry } from '../entries/entry.ts';
import { fundPosition } from './fund-position.ts';
import { fundStart } from './fund-periods.ts';
import { bookedFundRow, fundEnd, fundHeld, fundTotal, type FundSchedule } from './fund-schedule.ts';

/** What a fund books by itself from one day to another, both included, in order of date. Over its whole life its account returns to zero. */
export function fundOwnEntries(schedule: FundSchedule, from: CalendarDay, to: CalendarDay): Entry[] {
  const { terms, rows } = schedule;
  const within = (day: CalendarDay): boolean => day >= from && day <= to;
  const found: (Entry | undefined)[] = [];
  if (terms.opening && within(terms.opening.on)) {
    const { on, amount } = terms.opening;
    found.push(
      entryOf(on, 'opening', 'Fund taken on with its balance', null, [
        ['sinking-fund', amount],
        ['opening-balances', -amount],
      ]),
    );
  }
  for (const [index, { n, due }] of rows.entries()) {
    if (!within(due)) continue;
    const { deposit, interest } = bookedFundRow(schedule, index);
    found.push(
      entryOf(due, 'payment', `Deposit ${n} into the fund`, n, [
        ['sinking-fund', deposit + interest],
        ['interest-income', -interest],
        ['cash', -deposit],
      ]),
    );
  }
  const end = fundEnd(schedule);
  if (within(end)) {
    const memo = terms.repays ? `Fund paid out to repay ${terms.repays}` : 'Fund paid out';
    const held = fundHeld(schedule);
    found.push(
      entryOf(end, 'redemption', memo, null, [
        ['cash', held],
        ['sinking-fund', -held],
      ]),
    );
  }
  return inOrder(found);
}

/** Interest earned up to a period end and not yet added to the fund. */
export function fundAccrual(schedule: FundSchedule, end: CalendarDay): Entry | undefined {
  if (end < fundStart(schedule.terms)) return undefined;
  const { accruedInterest } = fundPosition(schedule, end);
  return entryOf(end, 'accrual', `Interest earned by the fund to ${formatDay(end)}`, null, [
    ['sinking-fund', accruedInterest],
    ['interest-income', -accruedInterest],
  ]);
}

/** Where a fund's accounts stand after a period end, the accrual reversed; debits positive. */
export function fundStanding(
  schedule: FundSchedule,
  periodEnd: CalendarDay,
): (readonly [AccountRole, number])[] {
  const { terms, rows } = schedule;
  const past = rows.filter(({ due }) => due <= periodEnd);
  const opened = terms.opening && terms.opening.on <= periodEnd ? terms.opening.amount : 0;
  const deposited = fundTotal({ terms, rows: past }, 'deposit');
  const grown = past.at(-1)?.closing ?? opened;
  const released = periodEnd >= fundEnd(schedule) ? fundHeld(schedule) : 0;
  return [
    ['sinking-fund', grown - released],
    ['interest-income', 0 - (grown - opened - deposited)],
    ['cash', released - deposited],
    ['opening-balances', 0 - opened],
  ];
}
