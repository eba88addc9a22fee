import { inject, ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { accountName, showText, showDay, showDecimal } from '@coffer/contract';
import { Chart } from '../../charts/chart';
import { splitChart } from '../../charts/split-chart';
import { FigureGrid } from '../../figures/figure-grid';
import type { GridRow } from '../../figures/grid-model';
import { viewKindOf } from '../../kinds/view-kinds';
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
  /** What was asked for, beside the figures that every one of its kind has. */
  readonly headline = input<readonly (readonly [string, string])[]>([]);
  /** What is right as it is typed and seldom meant. */
  readonly surprises = input<readonly string[]>([]);
  /** What is left at the end is to be paid with the last payment. */
  readonly paidAtEnd = output();
  /** What is left at the end is to be renewed. */
  readonly renewed = output();

  private readonly kind = computed(() => viewKindOf(this.schedule()).preview);
  protected readonly facts = computed(() => [
    ...this.kind().facts(this.schedule()),
    ...this.headline().map(([name, value]) => [showText(name), value] as const),
  ]);
  protected readonly legend = computed(() => this.kind().legend(this.schedule()));
  protected readonly showsIssue = computed(() => this.kind().showsIssue);
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
    ]
      .map(({ kind, message }) => ({ text: showText(message), left: kind === 'left-at-end' }))
      .concat(this.surprises().map((text) => ({ text: `${showText(text)} Is it meant so?`, left: false })));
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
    const { rows } = this.schedule();
    const kind = this.kind();
    const minor = (text: unknown): number => Math.round(Number(text) * 10 ** this.digits());
    const drawn = rows.filter((row) => row['n'] !== null && row['n'] !== 0);
    // What was paid late, or between payments, stands with the payment before it: no bar is missing where money moved.
    const between = new Map<PreviewRow, PreviewRow[]>();
    let latest: PreviewRow | undefined;
    for (const row of rows) {
      if (row['n'] !== null && row['n'] !== 0) latest = row;
      else if (latest) between.set(latest, [...(between.get(latest) ?? []), row]);
    }
    const bars = drawn.map((row) => ({
      label: `${row['n'] ?? ''} · ${showDay(String(row['due']))}`,
      ...kind.bar(row, between.get(row) ?? [], minor),
    }));
    return splitChart(bars, bars.length, kind.parts, this.digits());
  });

  protected readonly rows = computed((): GridRow<PreviewRow>[] =>
    this.schedule().rows.map((item, index) => ({ type: 'item', id: String(index), item })),
  );

  protected readonly columns = computed(() => this.kind().columns(this.schedule()));
}

function shownOrNothing(amount: string): string {
  return Number(amount) === 0 ? '' : showDecimal(amount);
}
