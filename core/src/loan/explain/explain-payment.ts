import { minorOf } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import {
  kindOfRow,
  type LoanRow,
  type LoanSchedule,
  type PaymentSetting,
} from '../schedule/loan-schedule.ts';
import type { RecordedPayment } from '../terms/loan-events.ts';
import { levelledBesides, unroundedPayment } from '../payment/payment-setting.ts';
import { PeriodGrowths } from '../interest/period-growths.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import type { ExplainStep, Explanation } from '../../explain/explanation.ts';
import { roundedTo } from '../../explain/rounding-words.ts';

const events = { to: 'terms', key: 'events' } as const;
const takesPayments: readonly LoanRow['kind'][] = [
  'payment',
  'late-payment',
  'early-payment',
  'overdue-payment',
];

/** How the payment of a row is made. */
export function explainPayment(schedule: LoanSchedule, row: LoanRow, name: string): Explanation {
  const title = `Payment, ${name}`;
  const cell = (column: 'opening' | 'interest', label: string): ExplainStep => ({
    label,
    amount: row[column],
    link: { to: 'row', row: row.index, column },
  });
  const made = (steps: ExplainStep[], more: Partial<Explanation> = {}): Explanation => ({
    title,
    amount: row.payment,
    steps,
    ...more,
  });
  if (row.kind === 'settlement' || schedule.settlement?.row === row.index) {
    return made([
      cell('opening', 'Settled: the balance'),
      cell('interest', '+ interest to the day'),
      ...restSteps(row),
    ]);
  }
  const recorded = recordedSteps(schedule, row);
  if (recorded) return made(recorded);
  if (row.kind !== 'payment') {
    // What is meant as extra principal after the term pays what is overdue first.
    return row.payment === 0
      ? made([{ label: 'Nothing is due with this row', text: '' }])
      : made([{ label: 'Recorded or planned in the events', amount: row.payment, link: events }]);
  }
  const setting = schedule.settings[schedule.setting[row.index] as number];
  const agreed = setting ? minorOf(schedule.terms, setting.amount) : 0;
  if (row.closing === 0 && row.payment !== agreed) {
    return made([
      cell('opening', 'All that is left: opening'),
      cell('interest', '+ its own interest'),
      ...restSteps(row),
    ]);
  }
  if (!setting) return made([]);
  return byAgreement(schedule, row, setting, agreed, cell('interest', '+ the interest of the period'), made);
}

/** What the payment that leaves nothing pays besides the balance and its own interest. */
function restSteps(row: LoanRow): ExplainStep[] {
  const arrears = row.payment - row.principal - row.interest - row.fee;
  const cell = (column: 'fee' | 'added' | 'extra', label: string): ExplainStep[] =>
    row[column] > 0 ? [{ label, amount: row[column], link: { to: 'row', row: row.index, column } }] : [];
  return [
    ...cell('fee', '+ fee on the unused part'),
    ...cell('added', '+ interest added'),
    ...(arrears > 0 ? [{ label: '+ interest in arrears or kept apart', amount: arrears }] : []),
    ...(arrears < 0 ? [{ label: '− interest left unpaid', amount: 0 - arrears }] : []),
    ...cell('extra', '− extra principal'),
  ];
}

/** The records that made a row: all of its day for a due date's own, and each by itself between due dates. */
function recordsOf(schedule: LoanSchedule, row: LoanRow): readonly RecordedPayment[] {
  const { receipts, date, due, n } = schedule;
  const receipt = receipts.byDue.get(row.due);
  const ofDay = (of: readonly RecordedPayment[] = []): RecordedPayment[] =>
    of.filter(({ on }) => on === row.date);
  if (row.kind === 'payment') return ofDay(receipt?.parts);
  // Of several on one day each has its row, in the order in which they were made.
  let place = 0;
  for (let before = row.index - 1; date[before] === row.date && due[before] === row.due; before -= 1) {
    if ((n[before] as number) > 0 || !takesPayments.includes(kindOfRow(schedule, before))) break;
    place += 1;
  }
  const byItself = (of: readonly RecordedPayment[] | undefined): RecordedPayment[] =>
    ofDay(of)
      .filter(({ amount }) => amount > 0)
      .slice(place, place + 1);
  if (row.kind === 'early-payment') return byItself(receipt?.early);
  if (row.date > row.due) return byItself(receipt?.late);
  // What was paid for a due date that never came up stands together on its day.
  const unmatched = byItself(receipts.unmatched);
  return unmatched.length > 0 ? unmatched : ofDay(receipt?.parts);
}

/** What was recorded for a row, and what of it went elsewhere than to what was due; nothing where no record made it. */
function recordedSteps(schedule: LoanSchedule, row: LoanRow): ExplainStep[] | undefined {
  if (!takesPayments.includes(row.kind)) return undefined;
  const records = recordsOf(schedule, row);
  if (records.length === 0) {
    const receipt = row.kind === 'payment' ? schedule.receipts.byDue.get(row.due) : undefined;
    if (!receipt) return undefined;
    const days = [...new Set(receipt.parts.map(({ on }) => formatDay(on)))].join(' and ');
    return [{ label: 'Recorded: nothing paid by this day', text: `paid on ${days}`, link: events }];
  }
  const steps = records.map(({ on, amount }): ExplainStep => ({
    label: `Recorded: paid on ${formatDay(on)}`,
    amount,
    link: events,
  }));
  const over = row.overpaid - (schedule.overpaid[row.index - 1] ?? 0);
  if (over < 0) steps.push({ label: '+ of what had been overpaid', amount: 0 - over });
  // Extra principal of the same day that was recorded by itself is no part of these.
  const beyond = records.reduce((sum, { amount }) => sum + amount, 0) - over - row.payment;
  if (beyond > 0) steps.push({ label: '− beyond the schedule, to extra principal', amount: beyond });
  if (over > 0) steps.push({ label: '− beyond all that was owed', amount: over });
  return steps;
}

function byAgreement(
  schedule: LoanSchedule,
  row: LoanRow,
  setting: PaymentSetting,
  agreed: number,
  interest: ExplainStep,
  made: (steps: ExplainStep[], more?: Partial<Explanation>) => Explanation,
): Explanation {
  const { terms, stretches, rates } = schedule;
  switch (setting.kind) {
    case 'interest':
      return made(billed(row, interest));
    case 'none':
      return row.payment === 0
        ? made([{ label: 'Nothing is paid in this stretch', text: '' }])
        : made(keptApart('Interest', row.payment));
    case 'listed':
      return made([
        { label: 'Listed in the terms', amount: row.payment, link: { to: 'terms', key: 'phases' } },
      ]);
    case 'principal':
      return made([
        {
          label: setting.over > 0 ? `Principal, the balance in ${setting.over} parts` : 'Principal agreed',
          amount: agreed,
          link: { to: 'terms', key: 'phases' },
        },
        interest,
      ]);
    case 'agreed':
      if (terms.solved?.phases?.includes(stretches[setting.stretch]?.phaseAt ?? -1)) {
        return made(
          [
            {
              label: 'Worked out: the same in each of',
              text: `${terms.solved.phases.length} stretches, so that nothing is left after the last`,
              link: { to: 'terms', key: 'payment' },
            },
          ],
          { unrounded: terms.solved.value, rounding: roundedTo(terms.rounding.payment, terms.rounding.ties) },
        );
      }
      return made([{ label: 'Agreed payment', amount: agreed, link: { to: 'terms', key: 'payment' } }]);
    case 'changed':
      return made([
        {
          label: `Payment agreed from ${formatDay(setting.on ?? row.due)}`,
          amount: agreed,
          link: { to: 'terms', key: 'events' },
        },
        ...keptApart('+ interest', row.payment - agreed),
      ]);
    case 'level': {
      const growths = new PeriodGrowths(terms, rates);
      return made(
        [
          {
            label: setting.anew ? 'Levelled anew: balance to repay' : 'Balance to repay',
            amount: minorOf(schedule.terms, setting.balance),
          },
          ...besidesSteps(schedule, setting),
          { label: 'Spread over', text: `${setting.over} payments`, link: { to: 'terms', key: 'count' } },
          {
            label: 'Annual rate',
            text: formatPercent(rates[setting.rate]?.annualRate ?? terms.annualRate),
            link: { to: 'terms', key: 'rate' },
          },
        ],
        {
          unrounded: unroundedPayment(terms, growths, stretches, setting),
          rounding: roundedTo(terms.rounding.payment, terms.rounding.ties),
        },
      );
    }
  }
}

/** Interest that a stretch without payments kept apart, which its last day pays beside what else is agreed for it. */
function keptApart(interest: 'Interest' | '+ interest', amount: number): ExplainStep[] {
  return amount > 0 ? [{ label: `${interest} kept apart, paid at the end of the stretch`, amount }] : [];
}

/** What a bill, or a payment of interest alone, is made of. */
function billed(row: LoanRow, interest: ExplainStep): ExplainStep[] {
  const before = row.payment - row.principal - row.interest - row.fee;
  const link = { to: 'row', row: row.index, column: 'fee' } as const;
  return [
    { ...interest, label: 'The interest of the period' },
    ...(row.fee > 0 ? [{ label: '+ fee on the unused part', amount: row.fee, link }] : []),
    ...(before > 0 ? [{ label: '+ left unpaid by earlier bills', amount: before }] : []),
  ];
}

function besidesSteps({ terms, stretches }: LoanSchedule, setting: PaymentSetting): ExplainStep[] {
  const { broughtIn, balloon } = levelledBesides(terms, stretches, setting);
  const steps: ExplainStep[] = [
    {
      label: '+ with the first payment, interest accrued before the start',
      amount: broughtIn,
      link: { to: 'terms', key: 'takenOn' },
    },
    {
      label: '− left after the last',
      amount: Math.round(Number(balloon)),
      link: { to: 'terms', key: 'count' },
    },
  ];
  return steps.filter(({ amount }) => amount !== 0);
}
