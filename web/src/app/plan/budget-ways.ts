import type { MinorUnits } from '@coffer/core';
import { CdkDrag, CdkDropList, moveItemInArray, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  viewChildren,
} from '@angular/core';
import { showAmount, showDecimal, showShortMonth } from '@coffer/contract';
import { Chart } from '../charts/chart';
import { CompanyService } from '../company/company.service';
import { budgetChart } from './budget-chart';
import { PlanDesk } from './plan-desk';
import { clearedBy, keyOfWay, refusalOfWay, waySentence } from './plan-words';

const wayWords: Readonly<Record<string, readonly [name: string, how: string]>> = {
  'same-day': ['One common day', 'all end about together'],
  'highest-rate': ['Highest rate first', 'the dearest gets the rest'],
  'smallest-balance': ['Smallest balance first', 'the smallest gets the rest'],
  own: ['Your own order', 'as listed below'],
};

/** The ways of using a budget beside each other, one of them month by month, and an order of one's own. */
@Component({
  selector: 'coffer-budget-ways',
  imports: [CdkDrag, CdkDropList, Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './budget-ways.html',
  styleUrls: ['./plan-loans.scss', './budget-ways.scss'],
})
export class BudgetWays {
  protected readonly desk = inject(PlanDesk);
  private readonly digits = inject(CompanyService).digits;
  private readonly injector = inject(Injector);
  private readonly turns = viewChildren<ElementRef<HTMLElement>>('turn');
  protected readonly showShortMonth = showShortMonth;
  protected readonly showDecimal = showDecimal;
  protected readonly money = (minor: MinorUnits): string =>
    minor === 0 ? '–' : showAmount(minor, this.digits());
  protected readonly lines = computed(() => {
    const ways = this.desk.ways();
    const [common] = ways;
    const least = Math.min(
      ...ways.flatMap((way) => (clearedBy(way) ? [Number(clearedBy(way)?.interest)] : [])),
    );
    return ways.map((way) => {
      const key = keyOfWay(way);
      const [name = '', how = ''] = wayWords[key] ?? [];
      const cleared = clearedBy(way);
      const byDay = common && clearedBy(common);
      const less = cleared && byDay ? Number(byDay.interest) - Number(cleared.interest) : undefined;
      return {
        key,
        way,
        name,
        how,
        refused: refusalOfWay(way),
        reached: 'commonDay' in way.budget ? undefined : way.budget,
        cheapest: Number(cleared?.interest) === least,
        less: key === 'same-day' || less === undefined ? '–' : showDecimal(less.toFixed(this.digits())),
        first: cleared?.loans.map(({ clears }) => clears ?? '').sort()[0] ?? '',
      };
    });
  });
  protected readonly chosen = computed(() => {
    const lines = this.lines();
    return lines.find(({ key }) => key === this.desk.wayKey()) ?? lines[0];
  });
  protected readonly chart = computed(() => {
    const way = this.chosen()?.way;
    return way ? budgetChart(way, this.budget(), this.digits()) : undefined;
  });
  private readonly budget = computed(() => {
    const { budget } = this.desk.document() as { budget?: { monthly: string } };
    return Math.round(Number(budget?.monthly ?? '0') * 10 ** this.digits());
  });
  protected readonly sentence = computed(() => {
    const chosen = this.chosen();
    if (!chosen) return '';
    const beyond = this.budget() - this.desk.contractual();
    return `${chosen.name}: ${waySentence(chosen.way)}${beyond > 0 && chosen.refused === '' ? ` At first ${this.money(beyond)} a month is beyond what the contracts ask.` : ''}`;
  });
  /** Names in the order in which they take turns: one's own, else as the chosen way clears them. */
  protected readonly order = computed(() => {
    const loans =
      this.chosen()?.reached?.loans ?? this.lines().find(({ reached }) => reached)?.reached?.loans ?? [];
    const names = loans.map(({ name }) => name);
    const own = this.desk.order().filter((name) => names.includes(name));
    if (own.length > 0) return [...own, ...names.filter((name) => !own.includes(name))];
    // What is never cleared comes last.
    const clears = new Map(loans.map((loan) => [loan.name, loan.clears ?? '9999']));
    return names.toSorted((one, other) => (clears.get(one) ?? '').localeCompare(clears.get(other) ?? ''));
  });

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }

  /** Puts a name elsewhere: from then on the order is one's own. */
  protected move(from: number, to: number): void {
    const order = [...this.order()];
    if (to < 0 || to >= order.length || from === to) return;
    moveItemInArray(order, from, to);
    this.desk.choose({ order });
    this.desk.wayKey.set('own');
  }

  protected onKey(event: KeyboardEvent, name: string): void {
    if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    const at = this.order().indexOf(name);
    const to = at + (event.key === 'ArrowUp' ? -1 : 1);
    this.move(at, to);
    afterNextRender(() => this.turns()[this.order().indexOf(name)]?.nativeElement.focus(), {
      injector: this.injector,
    });
  }

  protected forgetOrder(): void {
    this.desk.choose({ order: [] });
    this.desk.wayKey.set('highest-rate');
  }
}
