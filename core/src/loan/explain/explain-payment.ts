import { minorOf } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import type { LoanRow, LoanSchedule, PaymentSetting } from '../schedule/loan-schedule.ts';
import { levelledBesides, unroundedPayment } from '../payment/payment-setting.ts';
import { PeriodGrowths } from '../interest/period-growths.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import type { ExplainStep, Explanation } from '../../explain/explanation.ts';

const paymentRounding = {
  'cent-up': 'up to the cent',
  unit: 'to the whole unit',
  none: 'not rounded; shown to the cent',
  cent: 'to the cent, halves up',
} as const;

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
    return made([cell('opening', 'Settled: the balance'), cell('interest', '+ interest to the day')]);
  }
  const parts = schedule.receipts.byDue.get(row.due)?.parts.filter(({ on }) => on === row.date) ?? [];
  const receipt = schedule.receipts.byDue.get(row.due);
  if (receipt) {
    const steps = (parts.length > 0 ? parts : receipt.parts).map(({ on, amount }): ExplainStep => ({
      label: `Recorded: paid on ${formatDay(on)}`,
      amount,
      link: { to: 'terms', key: 'events' },
    }));
    if (row.extra > 0) steps.push({ label: '− beyond the schedule, to extra principal', amount: row.extra });
    return made(steps);
  }
  if (row.kind !== 'payment') {
    return made([{ label: 'Nothing is due with this row', text: '' }]);
  }
  const setting = schedule.settings[schedule.setting[row.index] as number];
  const agreed = setting ? minorOf(schedule.terms, setting.amount) : 0;
  if (row.closing === 0 && row.payment !== agreed) {
    const steps: ExplainStep[] = [
      cell('opening', 'All that is left: opening'),
      cell('interest', '+ its own interest'),
    ];
    const arrears = row.payment - row.interest - row.principal;
    if (arrears > 0) steps.push({ label: '+ interest in arrears or kept apart', amount: arrears });
    return made(steps);
  }
  if (!setting) return made([]);
  return byAgreement(schedule, row, setting, agreed, cell('interest', '+ the interest of the period'), made);
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
        : made([{ label: 'Interest kept apart, paid at the end of the stretch', amount: row.payment }]);
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
          { unrounded: terms.solved.value, rounding: paymentRounding[terms.rounding.payment] },
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
          rounding: paymentRounding[terms.rounding.payment],
        },
      );
    }
  }
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
