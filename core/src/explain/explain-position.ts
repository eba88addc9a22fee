import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { position } from '../position/position.ts';
import { positionFigures, type Position, type PositionFigure } from '../position/position-figures.ts';
import { classificationOn } from '../position/classification.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** What a figure is called where it stands by itself. */
function titleOf(figure: PositionFigure): string {
  return figure === 'deferredInterest' ? 'Interest deferred' : positionFigures[figure];
}

/**
 * How a figure of a position is made.
 *
 * @example
 * explainPosition(loan, day('2025-01-31'), 'accruedInterest').amount // 968
 */
export function explainPosition(schedule: Schedule, on: CalendarDay, figure: PositionFigure): Explanation {
  const { explain } = debtKindOf(schedule);
  const at = position(schedule, on);
  const title = `${titleOf(figure)}, ${formatDay(on)}`;
  const amount = at[figure];
  const plain = (steps: ExplainStep[]): Explanation => ({ title, amount, steps });
  switch (figure) {
    case 'accruedInterest':
      return { title, amount, ...explain.accrued(schedule, on) };
    case 'outstanding':
    case 'unpaidInterest':
    case 'deferredInterest':
      return plain([explain.balance(schedule, on, figure === 'outstanding' ? 'closing' : 'unpaid', amount)]);
    case 'overpaid':
      return plain([explain.balance(schedule, on, 'overpaid', amount)]);
    case 'carrying':
      return plain([
        { label: 'Outstanding', amount: at.outstanding },
        { label: '− unamortized discount', amount: at.unamortizedDiscount },
        { label: '− unamortized issue costs', amount: at.unamortizedIssueCosts },
        { label: '+ unamortized premium', amount: at.unamortizedPremium },
      ]);
    case 'current':
      return plain(currentSteps(schedule, on, at));
    case 'nonCurrent':
      return plain([
        { label: 'Carrying amount', amount: at.carrying },
        { label: '− current portion', amount: at.current },
      ]);
    default:
      return plain(explain.unamortized(schedule, on, at, figure));
  }
}

function currentSteps(schedule: Schedule, on: CalendarDay, at: Position): ExplainStep[] {
  const stated = classificationOn(schedule.terms.events, on);
  if (stated) {
    const to = stated.to === undefined ? '' : ` to ${formatDay(stated.to)}`;
    return [
      { label: `Presented as ${stated.as} from ${formatDay(stated.on)}${to}`, text: stated.reason },
      { label: 'Carrying amount', amount: at.carrying, link: { to: 'terms', key: 'events' } },
    ];
  }
  return debtKindOf(schedule).explain.current(schedule, on, at);
}
