import type { Flow } from '../../portfolio/flow.ts';
import { kindOfRow, type LoanSchedule } from './loan-schedule.ts';

/** What was borrowed and what each row moves. */
export function loanFlows(schedule: LoanSchedule): Flow[] {
  const { terms, length } = schedule;
  const flows: Flow[] = [
    { on: terms.start, drawn: terms.amount, added: 0, paid: 0, interest: 0, principal: 0 },
  ];
  for (let row = 0; row < length; row += 1) flows.push(rowFlow(schedule, row));
  return flows;
}

function rowFlow(schedule: LoanSchedule, row: number): Flow {
  const at = (column: Float64Array, of = row): number => (of < 0 ? 0 : (column[of] as number));
  const joins = at(schedule.added);
  const drawn = kindOfRow(schedule, row) === 'draw' ? joins : 0;
  const added = joins - drawn;
  // Where nothing is rounded the balances are those that are shown, and principal is what lies between them.
  const principal = schedule.exact
    ? at(schedule.opening) + joins - at(schedule.closing)
    : at(schedule.principal) + at(schedule.extra);
  return {
    on: schedule.date[row] as number,
    drawn,
    added,
    paid: at(schedule.payment) + at(schedule.extra),
    interest: at(schedule.interest) + at(schedule.unpaid, row - 1) - at(schedule.unpaid) - added,
    principal,
  };
}
