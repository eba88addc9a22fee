import type { MinorUnits } from '@coffer/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  showAmount,
  showDay,
  showDecimal,
  type PublishedPlannedLoan,
  type RegisterRow,
} from '@coffer/contract';
import { isOneCurrency, type PublishedUnreached } from '@coffer/contract';
import { CompanyService } from '../company/company.service';
import { viewKindOf } from '../kinds/view-kinds';
import { PlanDesk } from './plan-desk';

/** Instruments that are listed before they are searched for. */
const mostListed = 40;

const boundWords: Readonly<Record<PublishedPlannedLoan['bound'], string>> = {
  plan: 'plan',
  contract: 'contract',
  least: 'least',
  fund: 'fund',
};

/** A line of the plan's instruments. */
interface LoanLine {
  readonly row: RegisterRow;
  readonly ticked: boolean;
  readonly least: string;
  /** Whether its payments can be raised, and whether they may be. */
  readonly raisable: boolean;
  readonly early: boolean;
  readonly fault: string;
  readonly planned: PublishedPlannedLoan | undefined;
  readonly unreached: PublishedUnreached | undefined;
}

/** The instruments of a plan: which are in it, the least that is paid, and how each is paid and cleared. */
@Component({
  selector: 'coffer-plan-loans',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-loans.html',
  styleUrl: './plan-loans.scss',
})
export class PlanLoans {
  protected readonly desk = inject(PlanDesk);
  private readonly digits = inject(CompanyService).digits;
  protected readonly sought = signal('');
  protected readonly showDay = showDay;
  protected readonly showDecimal = showDecimal;
  protected readonly boundWords = boundWords;
  protected readonly money = (minor: MinorUnits): string => showAmount(minor, this.digits());
  protected readonly many = computed(() => this.desk.candidates().length > mostListed);
  private readonly listed = computed(() => {
    const [candidates, chosen] = [this.desk.candidates(), new Set(this.desk.chosen())];
    if (!this.many()) return candidates;
    const text = this.sought().trim().toLowerCase();
    const found = text === '' ? [] : candidates.filter(({ name }) => name.toLowerCase().includes(text));
    const ticked = candidates.filter(({ id }) => chosen.has(id));
    return [...ticked, ...found.filter(({ id }) => !chosen.has(id)).slice(0, mostListed)];
  });
  protected readonly lines = computed((): readonly LoanLine[] => {
    const chosen = new Set(this.desk.chosen());
    const loans = this.desk.plan()?.loans ?? [];
    const byName = new Map(loans.map((loan) => [loan.name, loan]));
    const faultAt = (key: string): string =>
      this.desk.faults().find((fault) => fault.key === key)?.message ?? '';
    return this.listed().map((row) => {
      const ticked = chosen.has(row.id);
      const loan = ticked ? byName.get(row.name) : undefined;
      return {
        row,
        ticked,
        least: this.desk.least()[row.id] ?? '',
        raisable: viewKindOf(row).tabs.includes('try'),
        early: !this.desk.kept().includes(row.id),
        fault: faultAt(`least.${row.id}`) || faultAt(`of.${row.id}`),
        planned: loan && !('outOfReach' in loan) ? loan : undefined,
        unreached: loan && 'outOfReach' in loan ? loan : undefined,
      };
    });
  });
  protected readonly totals = computed(() => {
    const totals = this.desk.plan()?.totals;
    return totals && isOneCurrency(totals) ? totals : undefined;
  });

  protected tick(id: string, ticked: boolean): void {
    const rest = this.desk.chosen().filter((each) => each !== id);
    this.desk.choose({ chosen: ticked ? [...rest, id] : rest });
  }

  protected setLeast(id: string, text: string): void {
    this.desk.choose({ least: { ...this.desk.least(), [id]: text } });
  }

  protected setEarly(id: string, early: boolean): void {
    const rest = this.desk.kept().filter((each) => each !== id);
    this.desk.choose({ kept: early ? rest : [...rest, id] });
  }

  /** How often it is paid, where that is not each month. */
  protected often({ pattern }: RegisterRow): string {
    return /\b(quarterly|half-yearly|yearly)$/.exec(pattern)?.[0] ?? '';
  }
}
