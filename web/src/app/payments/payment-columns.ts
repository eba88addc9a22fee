import { assumedPaid, showAmount, showDay, showMovement } from '@coffer/contract';
import type { GridColumn, GridCell, GridRow } from '../figures/grid-model';
import type { DraftedPayment } from './payment-draft';

/** How the payments are shown. */
export interface PaymentsShown {
  /** Columns are typed into only by who may record. */
  readonly mayRecord: boolean;
  /** Whether any payment has a fee. */
  readonly fees: boolean;
  /** The day that is looked at: what was due by it and is not recorded is assumed paid. */
  readonly by: string;
}

/** The columns of the month's payments. */
export function paymentColumns(
  digits: number,
  { mayRecord, fees, by }: PaymentsShown,
): GridColumn<DraftedPayment>[] {
  const figure = (
    key: 'interest' | 'fee' | 'principal' | 'amount',
    title: string,
    tone?: 'interest' | 'principal',
  ): GridColumn<DraftedPayment> => ({
    key: `agreed-${key}`,
    title,
    align: 'right',
    track: key === 'fee' ? '72px' : 'minmax(88px, 1fr)',
    ...(tone && { tone }),
    cell: ({ payment, rest }) => {
      if (rest) return key === 'amount' ? showAmount(payment.left, digits) : '';
      return showMovement(payment[key], digits);
    },
  });
  const tick: GridColumn<DraftedPayment> = {
    key: 'ticked',
    title: 'Record',
    align: 'left',
    track: '80px',
    ticks: (item) => (settled(item) ? undefined : item.draft.ticked),
    cell: (item) => (settled(item) ? 'recorded' : ''),
  };
  return [
    ...(mayRecord ? [tick] : []),
    {
      key: 'name',
      title: 'Instrument',
      align: 'left',
      track: 'minmax(172px, 2fr)',
      cell: ({ payment }) => ({ text: payment.name, sub: payment.lender ?? undefined }),
    },
    {
      key: 'n',
      title: 'No.',
      align: 'right',
      track: '46px',
      cell: ({ payment, rest }) => (rest ? 'rest' : String(payment.n)),
    },
    { key: 'due', title: 'Due', align: 'left', track: '106px', cell: ({ payment }) => showDay(payment.due) },
    figure('interest', 'Interest', 'interest'),
    ...(fees ? [figure('fee', 'Fee', 'interest')] : []),
    figure('principal', 'Principal', 'principal'),
    figure('amount', 'Scheduled'),
    {
      key: 'on',
      title: 'Left the bank on',
      align: 'left',
      track: '112px',
      cell: ({ draft, reading }) => shownIfRead(draft.on, reading.on, showDay, reading.fault?.field === 'on'),
      ...(mayRecord && { typed: (item) => (inParts(item) ? undefined : item.draft.on) }),
    },
    {
      key: 'amount',
      title: 'Amount paid',
      align: 'right',
      track: 'minmax(90px, 1fr)',
      cell: ({ draft, reading }) =>
        shownIfRead(
          draft.amount,
          reading.amount,
          (amount) => showAmount(amount, digits),
          reading.fault?.field === 'amount',
        ),
      ...(mayRecord && { typed: (item) => (inParts(item) ? undefined : item.draft.amount) }),
    },
    {
      key: 'words',
      title: 'That is',
      align: 'left',
      track: 'minmax(114px, 1.6fr)',
      cell: (item) => {
        const { payment, draft, reading, rest } = item;
        if (rest && !draft.ticked) return { text: '', chip: { text: 'in arrears', tone: 'wrong' } };
        if (payment.recorded.length === 0 && !draft.ticked && payment.due <= by) {
          return { text: '', chip: { text: assumedPaid.text, tone: 'wrong' }, tip: assumedPaid.tip };
        }
        const corrects = !rest && payment.recorded.length > 0 && draft.ticked;
        const parts = inParts(item) ? `in ${payment.recorded.length} parts` : '';
        const words = [parts, reading.words].filter((part) => part !== '').join(', ');
        const said = corrects ? `corrected: ${words}` : rest ? `another part: ${words}` : words;
        if (reading.fault) {
          const short = reading.fault.field === 'on' ? 'see the date' : 'see the amount';
          return { text: '', chip: { text: short, tone: 'wrong' }, tip: said };
        }
        if (reading.differs) return { text: '', chip: { text: said, tone: 'flag' } };
        return said;
      },
    },
  ];
}

/** Recorded, and nothing typed that would correct it. */
function settled({ payment, draft, rest }: DraftedPayment): boolean {
  return !rest && payment.recorded.length > 0 && !draft.ticked;
}

/** Recorded in several parts: corrected one by one among the events of its terms. */
function inParts({ payment, rest }: DraftedPayment): boolean {
  return !rest && payment.recorded.length > 1;
}

function shownIfRead<Value>(
  typed: string,
  value: Value | undefined,
  show: (value: Value) => string,
  faulty: boolean,
): GridCell {
  if (value === undefined || faulty) return { text: '', chip: { text: typed || 'empty', tone: 'wrong' } };
  return { text: show(value) };
}

/** A row for each payment; what is recorded already stands back. */
export function paymentRows(drafted: readonly DraftedPayment[]): GridRow<DraftedPayment>[] {
  return drafted.map((item) => ({
    type: 'item',
    id: item.id,
    item,
    quiet: settled(item),
  }));
}
