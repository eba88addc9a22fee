import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';
import { Router } from '@angular/router';
import { isOneCurrency, showDay, showDecimal } from '@coffer/contract';
import { saveFile } from '../api/save-file';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { amountHint, dayHint, rateHint } from '../fields/hints';
import { TypedField } from '../fields/typed-field';
import { ScenarioDesk, type NamedChange } from '../scenarios/scenario-desk';
import { SessionService } from '../session/session.service';
import { readDay } from '../typed/typed-day';
import { readPercent } from '../typed/typed-number';
import { BudgetWays } from './budget-ways';
import { FrontierCurve } from './frontier-curve';
import { PlanDesk } from './plan-desk';
import type { PlanMode, TypedPlan } from './plan-inputs';
import { PlanLoans } from './plan-loans';
import { PlanWorker } from './plan-worker.service';
import { PlanYears } from './plan-years';
import { refusalOfWay } from './plan-words';

type Controls = { [Key in keyof TypedPlan]: FormControl<string> };

/** Several loans cleared by a day, or with a budget: what to pay, what it costs, and whether faster is worth it. */
@Component({
  selector: 'coffer-plan',
  imports: [
    BudgetWays,
    FrontierCurve,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    PlanLoans,
    PlanYears,
    TypedField,
  ],
  providers: [PlanDesk, PlanWorker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan.page.html',
  styleUrl: './plan.page.scss',
})
export class PlanPage {
  protected readonly desk = inject(PlanDesk);
  private readonly scenarios = inject(ScenarioDesk);
  private readonly router = inject(Router);
  protected readonly company = inject(CompanyService);
  protected readonly asOf = inject(AsOfService);
  protected readonly amountHint = amountHint;
  protected readonly rateHint = rateHint;
  protected readonly showDay = showDay;
  protected readonly showDecimal = showDecimal;
  protected readonly session = inject(SessionService);
  protected readonly madeAt = signal('');
  protected readonly said = signal('');
  protected readonly group = new FormGroup(controlsOf(this.desk.typed()));
  protected readonly form = this.group.controls;
  protected readonly totals = computed(() => {
    const totals = this.desk.plan()?.totals;
    return totals && isOneCurrency(totals) ? totals : undefined;
  });
  protected readonly clearBy = computed(() => {
    const { clearBy } = this.desk.document() as { clearBy?: string };
    return clearBy ?? '';
  });
  protected readonly hurdle = computed(() => {
    const percent = readPercent(this.desk.typed().hurdle);
    return percent === undefined ? '' : `${percent}%`;
  });
  protected readonly contractual = computed(() => this.desk.contractual() / 10 ** this.company.digits());
  protected readonly provided = computed(() =>
    (this.desk.plan()?.loans ?? []).flatMap((loan) => ('fund' in loan && loan.fund ? [loan.name] : [])),
  );
  private readonly way = computed(() => (this.desk.mode() === 'budget' ? this.desk.chosenWay() : undefined));
  /** Why what is chosen is no plan; empty where it is one. */
  protected readonly refused = computed(() => {
    const way = this.way();
    return way ? refusalOfWay(way) : '';
  });
  protected readonly income = computed(() =>
    this.desk.mode() === 'budget' ? this.way()?.income : this.desk.plan()?.income,
  );
  /** Names of what no payment clears by the wished day. */
  protected readonly without = computed(() =>
    (this.desk.plan()?.loans ?? []).flatMap((loan) => ('outOfReach' in loan ? [loan.name] : [])),
  );
  protected readonly proofs = computed(() => {
    // What is refused is no plan that anything could be proven of.
    const proofs = this.refused() ? [] : ((this.way() ?? this.desk.plan())?.proofs ?? []);
    return { hold: proofs.filter(({ holds }) => holds).length, of: proofs.length };
  });
  /** Faults that belong to no field. */
  protected readonly elsewhere = computed(() => this.desk.faults().filter(({ key }) => key === '*'));

  constructor() {
    this.group.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.desk.type(this.group.getRawValue()));
    // The wished day that is suggested at first stands in its field.
    effect(() => {
      const { clearBy } = this.desk.typed();
      if (this.form.clearBy.value !== clearBy) this.form.clearBy.setValue(clearBy, { emitEvent: false });
    });
  }

  protected fault(key: string): string {
    return this.desk.faults().find((fault) => fault.key === key)?.message ?? '';
  }

  /** What a day reads as, and how far off it is. */
  protected wishHint(): string {
    const day = readDay(this.desk.typed().clearBy);
    return day === undefined ? '' : dayHint(this.desk.typed().clearBy);
  }

  protected setMode(mode: PlanMode): void {
    this.desk.choose({ mode });
  }

  protected onWish(day: string): void {
    this.form.clearBy.setValue(showDay(day));
  }

  /** Keeps the plan as a scenario that is not kept yet, and looks at it in the portfolio. */
  protected toScenario(): void {
    this.said.set('');
    this.desk.changes(this.way()?.budget.use).subscribe((answer) => {
      if (answer.kind !== 'changes') return;
      const unsaid = answer.changes.filter((change) => change.unsaid).map(({ name }) => name);
      const changes = this.desk.changed(answer.changes).map(({ id, version, change }): NamedChange => ({
        instrumentId: id,
        version,
        name: change.name,
        ...change.change,
      }));
      if (changes.length === 0) {
        this.said.set(
          'The plan pays everything as the contracts do; there is nothing to keep as a scenario.',
        );
        return;
      }
      if (unsaid.length > 0) {
        this.said.set(
          `Left out, for no events pay it as the plan does: ${unsaid.join(', ')}. The rest is scenario ${this.start(changes)} in the portfolio.`,
        );
        return;
      }
      this.start(changes);
      void this.router.navigateByUrl('/portfolio');
    });
  }

  private start(changes: readonly NamedChange[]): string {
    const by = `leared by ${showDay(this.clearBy())}`;
    const all = this.without().length === 0 ? `C${by}` : `All but ${this.without().join(', ')} c${by}`;
    const until = this.clearBy() ? all : 'Paid from a budget';
    const key = this.scenarios.start(changes, until);
    this.scenarios.chosenKey.set(key);
    return until;
  }

  /** Prints the page as it stands, with who made it and when. */
  protected print(): void {
    this.madeAt.set(`${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`);
    setTimeout(() => window.print());
  }

  /** The plan as a document that the command line works out the same. */
  protected takeOut(): void {
    const plan = this.desk.document() as { budget?: object };
    const use = this.way()?.budget.use;
    const used = plan.budget && use ? { ...plan, budget: { ...plan.budget, use } } : plan;
    const text = JSON.stringify(used, null, 2);
    saveFile(`Plan ${this.asOf.date()}.json`, new Blob([text], { type: 'application/json' }));
  }
}

function controlsOf(typed: TypedPlan): Controls {
  return {
    clearBy: new FormControl(typed.clearBy, { nonNullable: true }),
    fundRate: new FormControl(typed.fundRate, { nonNullable: true }),
    hurdle: new FormControl(typed.hurdle, { nonNullable: true }),
    outlays: new FormControl(typed.outlays, { nonNullable: true }),
    taxRate: new FormControl(typed.taxRate, { nonNullable: true }),
    operatingCash: new FormControl(typed.operatingCash, { nonNullable: true }),
    monthly: new FormControl(typed.monthly, { nonNullable: true }),
  };
}
