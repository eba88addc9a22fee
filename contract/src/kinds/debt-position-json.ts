import { formatAmount, formatDay, position, type CalendarDay, type Schedule } from '@coffer/core';

/** The position of something owed in the published form. */
export function debtPositionJson(schedule: Schedule, on: CalendarDay): Record<string, unknown> {
  const at = position(schedule, on);
  const money = (minor: number): string => formatAmount(minor, schedule.terms.digits);
  return {
    on: formatDay(at.on),
    outstanding: money(at.outstanding),
    accruedInterest: money(at.accruedInterest),
    accruedFee: money(at.accruedFee),
    unpaidInterest: money(at.unpaidInterest),
    deferredInterest: money(at.deferredInterest),
    unamortizedDiscount: money(at.unamortizedDiscount),
    unamortizedPremium: money(at.unamortizedPremium),
    unamortizedIssueCosts: money(at.unamortizedIssueCosts),
    deferredCosts: money(at.deferredCosts),
    overpaid: money(at.overpaid),
    carrying: money(at.carrying),
    current: money(at.current),
    nonCurrent: money(at.nonCurrent),
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}
