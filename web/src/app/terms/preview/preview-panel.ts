import { inject, ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { showText, showDay, showDecimal } from '@coffer/contract';
import { Chart } from '../../charts/chart';
import { splitChart } from '../../charts/split-chart';
import { FigureGrid } from '../../figures/figure-grid';
import type { GridColumn, GridRow } from '../../figures/grid-model';
import { accountName } from '../../journal/account-names';
import type { PreviewLine, PreviewRow, SchedulePreview } from './schedule-preview';
import { CompanyService } from '../../company/company.service';

/** What typed terms make: the figures that matter, the picture, every row, and the issue entry. */
@Component({
  selector: 'coffer-preview-panel',
  imports: [Chart, FigureGrid, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './preview-panel.html',
  styleUrl: './preview-panel.scss',
})
export class PreviewPanel {
  private readonly company = inject(CompanyService);
  readonly schedule = input.required<SchedulePreview>();
  readonly issue = input.required<readonly PreviewLine[]>();
  /** What is typed now cannot be worked out, and this is the last that could. */
  readonly stale = input(false);
  /** Why not. */
  readonly pending = input<readonly string[]>([]);
  readonly digits = input.required<number>();
  /** What is left at the end is to be paid with the last payment. */
  readonly paidAtEnd = output();

  protected readonly facts = computed((): (readonly [string, string])[] => {
    const made = this.schedule();
    const money = (text: string | null | undefined): string => showDecimal(text ?? '');
    if (made.kind === 'bond') {
      return bondFacts(made);
    }
    const { totals, purchase, left, clears } = made;
    const added = Number(totals['addedInterest'] ?? 0) > 0;
    const interest = ['Total interest', money(totals['interest'])] as const;
    if (made.kind === 'credit-line') {
      return [
        ['Bills', String(made.paymentCount ?? '')],
        interest,
        ...(totals['fee'] ? [['Unused fee', money(totals['fee'])] as const] : []),
        ...(left ? [['Owed at the end', money(left)] as const] : []),
        ...(!left && totals['drawn'] && clears ? [['Clears', showDay(clears)] as const] : []),
      ];
    }
    return [
      ...(made.regularPayment ? [['Payment', money(made.regularPayment)] as const] : []),
      ['Payments', String(made.paymentsMade ?? '')],
      ['Last payment', money(made.finalPayment)],
      interest,
      ...(added ? [['Interest added', money(totals['addedInterest'])] as const] : []),
      ...(purchase ? [['Finance cost', money(purchase.financeCost)] as const] : []),
      ...(left
        ? [['Left at the end', money(left)] as const]
        : [['Clears', clears ? showDay(clears) : 'not cleared'] as const]),
    ];
  });

  /** Whether a bond pays coupons. */
  protected readonly pays = computed(() => Number(this.schedule().totals['coupon']) !== 0);
  protected readonly holding = computed(() => this.schedule().proofs.filter((proof) => proof.holds).length);
  /** What its author should know; fixings still to come are told of together. */
  protected readonly notices = computed((): { text: string; left: boolean }[] => {
    const all = this.schedule().notices ?? [];
    const missing = all.filter(({ kind }) => kind === 'fixing-missing');
    const first = missing[0];
    const others = missing.length > 1 ? ` So do ${missing.length - 1} later dates.` : '';
    return [
      ...all.filter((notice) => notice.kind !== 'fixing-missing'),
      ...(first ? [{ ...first, message: `${first.message}${others}` }] : []),
    ].map(({ kind, message }) => ({ text: showText(message), left: kind === 'left-at-end' }));
  });
  protected readonly failing = computed(() => this.schedule().proofs.filter((proof) => !proof.holds));
  protected readonly issueLines = computed(() =>
    this.issue().map((line) => ({
      account:
        this.company.accounts().find(({ role }) => role === line.account)?.name ?? accountName(line.account),
      debit: shownOrNothing(line.debit),
      credit: shownOrNothing(line.credit),
    })),
  );

  protected readonly option = computed(() => {
    const { kind, rows } = this.schedule();
    const minor = (text: unknown): number => Math.round(Number(text) * 10 ** this.digits());
    const drawn = rows.filter((row) => row['n'] !== null && row['n'] !== 0);
    // What was paid late, or between payments, stands with the payment before it: no bar is missing where money moved.
    const between = new Map<PreviewRow, PreviewRow[]>();
    let latest: PreviewRow | undefined;
    for (const row of rows) {
      if (row['n'] !== null && row['n'] !== 0) latest = row;
      else if (latest) between.set(latest, [...(between.get(latest) ?? []), row]);
    }
    const bars = drawn.map((row) => {
      const label = `${row['n'] ?? ''} · ${showDay(String(row['due']))}`;
      if (kind !== 'bond') {
        const paid = [row, ...(between.get(row) ?? [])];
        const sum = (of: (each: PreviewRow) => number): number =>
          paid.reduce((total, each) => total + of(each), 0);
        const lower = sum((each) => minor(each['principal']) + minor(each['extra']));
        const upper = sum((each) => Math.max(0, minor(each['payment']) - minor(each['principal'])));
        return { label, lower, upper };
      }
      const amortized = minor(row['amortization']);
      const lower = amortized < 0 ? minor(row['expense']) : minor(row['expense']) - amortized;
      return { label, lower, upper: Math.abs(amortized), line: minor(row['closing']) };
    });
    const names = kind !== 'bond' ? (['principal', 'interest'] as const) : (['coupon', 'amortized'] as const);
    return splitChart(bars, bars.length, names, this.digits());
  });

  protected readonly rows = computed((): GridRow<PreviewRow>[] =>
    this.schedule().rows.map((item, index) => ({ type: 'item', id: String(index), item })),
  );

  protected readonly columns = computed((): GridColumn<PreviewRow>[] => {
    const line = this.schedule().kind === 'credit-line';
    const figure = (key: string, title: string, tone?: 'principal' | 'interest'): GridColumn<PreviewRow> => ({
      key,
      title,
      align: 'right',
      track: 'minmax(64px, 1fr)',
      ...(tone && { tone }),
      cell: (row) => {
        const text = String(row[key] ?? '');
        // What a line is repaid between its bills stands where principal does, as on the instrument's page.
        if (key === 'principal' && line && Number(row['extra']) !== 0)
          return showDecimal(String(row['extra']));
        return !standing.includes(key) && Number(text) === 0 ? '–' : showDecimal(text);
      },
    });
    const head: GridColumn<PreviewRow>[] = [
      { key: 'n', title: 'No.', align: 'right', track: '36px', cell: (row) => String(row['n'] ?? '') },
      { key: 'due', title: 'Due', align: 'left', track: '106px', cell: (row) => showDay(String(row['due'])) },
    ];
    if (this.schedule().kind === 'bond') {
      return [
        ...head,
        ...(this.pays() ? [figure('coupon', 'Coupon', 'principal')] : []),
        figure('expense', 'Expense', 'interest'),
        figure('amortization', 'Amortized'),
        figure('unamortized', 'Unamortized'),
        figure('closing', 'Carrying'),
      ];
    }
    const anyExtra = !line && Number(this.schedule().totals['extra']) !== 0;
    const { drawn, addedInterest, fee } = this.schedule().totals;
    const anyUnpaid = this.schedule().rows.some((row) => row['unpaidInterest'] !== undefined);
    const more = [
      ...(anyExtra ? [figure('extra', 'Extra')] : []),
      ...(drawn ? [figure('drawn', 'Drawn')] : []),
      ...(addedInterest ? [figure('addedInterest', 'Added')] : []),
      ...(anyUnpaid ? [figure('unpaidInterest', 'Unpaid')] : []),
      ...(fee ? [figure('fee', 'Unused fee')] : []),
    ];
    return [
      ...head,
      // With more to show, what a row opens with is read off the row before.
      ...(more.length === 0 ? [figure('opening', 'Opening')] : []),
      figure('payment', 'Payment'),
      figure('interest', 'Interest', 'interest'),
      figure('principal', line ? 'Repaid' : 'Principal', 'principal'),
      ...more,
      figure('closing', 'Closing'),
    ];
  });
}

/** What a bond brings and costs. */
function bondFacts(made: SchedulePreview): (readonly [string, string])[] {
  const money = (text: string | undefined): string => showDecimal((text ?? '').replace('-', ''));
  const rate = (text: string | undefined): string => `${trimmed((text ?? '').replace('%', ''), 4)}%`;
  const premium = made.discount?.startsWith('-') ?? false;
  return [
    ['Price', trimmed(made.price ?? '', 4)],
    ['Yield', rate(made.yield ?? made.effectiveRate)],
    ...(made.yield === undefined ? [] : [['Rate net of costs', rate(made.effectiveRate)] as const]),
    ['Proceeds', money(made.proceeds)],
    ...(made.accruedReceived === undefined
      ? []
      : [['Of it accrued coupon', money(made.accruedReceived)] as const]),
    [premium ? 'Premium' : 'Discount', `${money(made.discount)} · ${made.discountOfFace} of face`],
    ['Expense in all', money(made.totals['expense'])],
  ];
}

/** Columns that stand at a balance, zero included. */
const standing: readonly string[] = ['opening', 'closing', 'unamortized'];

function trimmed(decimal: string, places: number): string {
  const [whole = '', decimals = ''] = decimal.split('.');
  return `${whole}.${decimals.slice(0, places).padEnd(2, '0')}`;
}

function shownOrNothing(amount: string): string {
  return Number(amount) === 0 ? '' : showDecimal(amount);
}
