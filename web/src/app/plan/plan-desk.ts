import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { debounceTime, EMPTY, finalize, switchMap, type Observable, type Subscription } from 'rxjs';
import { addMonths, formatDay, parseDay, type BudgetUse } from '@coffer/core';
import {
  endpoints,
  showDay,
  type Fault,
  type PlanChange,
  type PublishedPlan,
  type RegisterRow,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { KeptInBrowser } from '../session/kept-in-browser';
import { viewKindOf } from '../kinds/view-kinds';
import {
  emptyPlan,
  fieldOf,
  firstChoices,
  firstWish,
  planOf,
  type PlanCandidate,
  type PlanChoices,
  type TypedPlan,
} from './plan-inputs';
import { keyOfWay } from './plan-words';
import type { BudgetWay, Compared, PlanAnswer } from './plan-work';
import { PlanWorker } from './plan-worker.service';

/** Above this many instruments none is in a plan before it is chosen. */
const mostAtFirst = 60;

interface KeptPlan {
  readonly typed: TypedPlan;
  readonly choices: Omit<PlanChoices, 'chosen'> & { readonly chosen: readonly string[] | undefined };
}

/** What is planned: what is typed and chosen, and what comes of it, worked out as it changes. */
@Injectable()
export class PlanDesk {
  private readonly api = inject(ApiClient);
  private readonly asOf = inject(AsOfService);
  private readonly browser = inject(KeptInBrowser);
  private readonly worker = inject(PlanWorker);
  readonly typed = signal<TypedPlan>(emptyPlan);
  private readonly choices = signal<KeptPlan['choices']>({ ...firstChoices, chosen: undefined });
  private readonly rows = signal<readonly RegisterRow[] | undefined>(undefined);
  private readonly documents = signal<ReadonlyMap<string, { version: number; document: unknown }>>(new Map());
  readonly failed = signal('');
  private readonly answered = signal<readonly Fault[]>([]);
  readonly plan = signal<PublishedPlan | undefined>(undefined);
  readonly contractual = signal(0);
  readonly compared = signal<{ months: Compared; years: Compared } | undefined>(undefined);
  readonly ways = signal<readonly BudgetWay[]>([]);
  /** The way of using a budget that is looked at. */
  readonly wayKey = signal('highest-rate');
  readonly chosenWay = computed(() => {
    const ways = this.ways();
    return ways.find((way) => keyOfWay(way) === this.wayKey()) ?? ways[0];
  });
  /** How far the horizons have come; none while nothing is worked out. */
  readonly progress = signal<{ done: number; of: number } | undefined>(undefined);
  /** What the last answer was to. */
  private readonly answeredFor = signal<unknown>(undefined);
  /** What is shown is not of what is typed and chosen now. */
  readonly stale = computed(() => this.plan() !== undefined && this.answeredFor() !== this.read());
  readonly cancelled = signal(false);
  private running: Subscription | undefined;

  readonly mode = computed(() => this.choices().mode);
  readonly freed = computed(() => this.choices().freed);
  readonly order = computed(() => this.choices().order);
  readonly least = computed(() => this.choices().least);
  readonly kept = computed(() => this.choices().kept);
  readonly deductible = computed(() => {
    const { outlaysDeductible: outlays, interestDeductible: interest } = this.choices();
    return { outlays, interest };
  });
  /** What may be in the plan: all of which something is owed. */
  readonly candidates = computed(() => (this.rows() ?? []).filter(({ figures }) => figures.outstanding > 0));
  readonly loaded = computed(() => this.rows() !== undefined);
  readonly chosen = computed((): readonly string[] => {
    const ids = new Set(this.candidates().map(({ id }) => id));
    const { chosen } = this.choices();
    if (chosen) return chosen.filter((id) => ids.has(id));
    // What ends within the year is cleared by its contract; it can be ticked, and then is planned as all else.
    const year = formatDay(addMonths(parseDay(this.asOf.date()) ?? 0, 12, true));
    const loans = this.candidates().filter(
      (row) => viewKindOf(row).tabs.includes('try') && (row.matures ?? '') > year,
    );
    return loans.length > mostAtFirst ? [] : loans.map(({ id }) => id);
  });
  private readonly members = computed((): readonly PlanCandidate[] =>
    this.candidates()
      .filter(({ id }) => this.chosen().includes(id))
      .flatMap((row) => {
        const known = this.documents().get(row.id);
        return known ? [{ row, document: known.document }] : [];
      }),
  );
  private readonly read = computed(() =>
    planOf(this.typed(), { ...this.choices(), chosen: this.chosen() }, this.asOf.date(), this.members()),
  );
  /** The plan as a document of its own. */
  readonly document = computed(() => this.read().document);
  /** What is wrong, by the fields. */
  readonly faults = computed((): readonly Fault[] => {
    const typed = this.read().faults;
    if (typed.length > 0) return typed;
    return this.answered().map((fault) => ({
      key: fieldOf(fault.key, this.members(), this.chosen()),
      message: fault.message,
    }));
  });

  constructor() {
    const kept = this.browser.restore('plan', 'page', (was) => was as KeptPlan);
    if (kept) {
      this.typed.set({ ...emptyPlan, ...kept.typed });
      this.choices.update((choices) => ({ ...choices, ...kept.choices }));
    }
    // Suggested before anything is shown: what came later would stand in the middle of what is typed by then.
    this.suggest();
    effect(() => this.suggest());
    effect(() => this.browser.keep('plan', 'page', { typed: this.typed(), choices: this.choices() }));
    toObservable(this.asOf.date)
      .pipe(
        switchMap((on) => this.api.call(endpoints.register, { query: { on } })),
        takeUntilDestroyed(),
      )
      .subscribe({
        next: ({ rows }) => {
          this.rows.set(rows);
          this.documents.set(new Map());
        },
        error: (error: unknown) => this.failed.set(messageOf(error)),
      });
    toObservable(computed(() => this.chosen().filter((id) => !this.documents().has(id))))
      .pipe(
        switchMap((ids) =>
          ids.length === 0 ? EMPTY : this.api.call(endpoints.documents, { body: { ids } }),
        ),
        takeUntilDestroyed(),
      )
      .subscribe({
        next: ({ instruments }) =>
          this.documents.update((known) => {
            const all = new Map(known);
            for (const { id, version, document } of instruments) all.set(id, { version, document });
            return all;
          }),
        error: (error: unknown) => this.failed.set(messageOf(error)),
      });
    toObservable(computed(() => ({ read: this.read(), ways: this.waysAsked(), ready: this.ready() })))
      .pipe(debounceTime(120), takeUntilDestroyed())
      .subscribe(() => this.work());
    inject(DestroyRef).onDestroy(() => this.running?.unsubscribe());
  }

  private suggested = false;

  /** Suggests a day, once it is known from when on: once, so that a field that is emptied stays so. */
  private suggest(): void {
    const on = this.asOf.date();
    if (this.suggested || parseDay(on) === undefined) return;
    this.suggested = true;
    if (untracked(this.typed).clearBy === '') this.type({ clearBy: showDay(formatDay(firstWish(on))) });
  }

  private ready(): boolean {
    return this.chosen().length > 0 && this.members().length === this.chosen().length;
  }

  private waysAsked(): readonly BudgetUse[] {
    if (this.mode() === 'day') return [];
    const own = this.order();
    return ['same-day', 'highest-rate', 'smallest-balance', ...(own.length > 0 ? [own] : [])];
  }

  type(more: Partial<TypedPlan>): void {
    this.typed.update((typed) => ({ ...typed, ...more }));
  }

  choose(more: Partial<PlanChoices>): void {
    this.choices.update((choices) => ({ ...choices, ...more }));
  }

  /** Works out what is asked now; what was worked out before stays, pale, until it is there. */
  work(): void {
    this.running?.unsubscribe();
    this.cancelled.set(false);
    this.progress.set(undefined);
    this.answered.set([]);
    const [read, ways] = [this.read(), this.waysAsked()];
    const { document, faults } = read;
    const asksNothing = this.mode() === 'budget' && this.typed().monthly.trim() === '';
    if (!this.ready() || faults.length > 0 || asksNothing) {
      if (this.chosen().length === 0) this.clear();
      return;
    }
    this.running = this.worker.ask({ document, ways, changes: false }).subscribe((answer) => {
      this.take(answer);
      if ('last' in answer) this.answeredFor.set(read);
    });
  }

  private clear(): void {
    this.plan.set(undefined);
    this.compared.set(undefined);
    this.ways.set([]);
  }

  private take(answer: PlanAnswer): void {
    switch (answer.kind) {
      case 'faults':
        this.answered.set(answer.faults);
        return;
      case 'planned':
        this.plan.set(answer.plan);
        this.contractual.set(answer.contractual);
        if (this.mode() === 'budget') this.compared.set(undefined);
        return;
      case 'progress':
        this.progress.set(answer);
        return;
      case 'horizons':
        this.compared.set(answer);
        this.progress.set(undefined);
        return;
      case 'budgets':
        this.ways.set(answer.ways);
        this.progress.set(undefined);
        return;
      case 'changes':
    }
  }

  cancel(): void {
    this.running?.unsubscribe();
    this.progress.set(undefined);
    this.cancelled.set(true);
  }

  /** What the plan, or a way of using the budget, changes of each instrument; the work under way goes on after it. */
  changes(way: BudgetUse | undefined): Observable<PlanAnswer> {
    const document = untracked(this.document);
    const asked = this.worker.ask({ document, ways: way === undefined ? [] : [way], changes: true });
    // A new question ends the one before it: what was under way is begun again.
    return asked.pipe(
      finalize(() => {
        if (this.progress() !== undefined) this.work();
      }),
    );
  }

  /** The instruments that changes are of, by name. */
  changed(changes: readonly PlanChange[]): { id: string; version: number; change: PlanChange }[] {
    const byName = new Map(this.members().map(({ row }) => [row.name, row]));
    return changes.flatMap((change) => {
      const row = byName.get(change.name);
      const known = row && this.documents().get(row.id);
      return row && known && change.change ? [{ id: row.id, version: known.version, change }] : [];
    });
  }
}
