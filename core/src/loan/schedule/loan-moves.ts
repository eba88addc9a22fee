import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Move, MoveReason } from '../../change/move.ts';
import { eventsOf } from '../terms/loan-events.ts';
import type { RowKind } from './loan-columns.ts';
import { kindOfRow, type LoanSchedule } from './loan-schedule.ts';

/** What rows between due dates are, told by their kind. */
const between: Readonly<Partial<Record<RowKind, MoveReason>>> = {
  draw: 'drawn',
  'interest-added': 'added',
  extra: 'repaid',
  settlement: 'repaid',
  'overpayment-returned': 'repaid',
  'late-payment': 'paid-late',
  'overdue-payment': 'paid-late',
  'early-payment': 'paid-early',
};

/** What happens to a loan after one day to the end of another; the amounts are all that moves its balance. */
export function loanMoves(schedule: LoanSchedule, after: CalendarDay, through: CalendarDay): Move[] {
  const { terms, date, length } = schedule;
  const moves: Move[] = eventsOf(terms.events, 'renewal')
    .filter(({ on }) => on > after && on <= through)
    .map(() => ({ reason: 'renewed', amount: 0, asAgreed: false }));
  if (terms.start > after && terms.start <= through && terms.amount > 0) {
    moves.push({ reason: 'drawn', amount: terms.amount, asAgreed: false });
  }
  for (let row = 0; row < length && (date[row] as number) <= through; row += 1) {
    if ((date[row] as number) > after) moves.push(...movesOfRow(schedule, row));
  }
  return moves;
}

function movesOfRow(schedule: LoanSchedule, row: number): Move[] {
  const { n, date, due, opening, closing, payment, extra, added, unpaid, principalInArrears } = schedule;
  const at = (column: Float64Array, of = row): number => (of < 0 ? 0 : (column[of] as number));
  const moved = at(closing) - at(opening);
  const reason = between[kindOfRow(schedule, row)];
  if (reason) return [{ reason, amount: moved, asAgreed: false }];
  const moves: Move[] = [];
  const onItsDay = (n[row] as number) > 0 && date[row] === due[row];
  const paid = moved + at(extra) - at(added);
  if (paid !== 0 || at(payment) !== 0) {
    moves.push({ reason: onItsDay ? 'paid' : 'paid-early', amount: paid, asAgreed: onItsDay });
  }
  if (at(added) !== 0) moves.push({ reason: 'added', amount: at(added), asAgreed: true });
  if (at(extra) !== 0) moves.push({ reason: 'repaid', amount: 0 - at(extra), asAgreed: false });
  const grown = (column: Float64Array): boolean => at(column) > at(column, row - 1);
  if (grown(unpaid) || grown(principalInArrears))
    moves.push({ reason: 'missed', amount: 0, asAgreed: false });
  return moves;
}
