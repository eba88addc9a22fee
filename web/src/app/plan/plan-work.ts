import {
  budgetMonths,
  contractualYearly,
  formatDay,
  isPlanned,
  planFor,
  type BudgetUse,
  type Horizon,
} from '@coffer/core';
import {
  budgetWay,
  horizonsJson,
  horizonsOf,
  planChanges,
  plannedJson,
  readPlan,
  type Fault,
  type PlanChange,
  type PlannedWay,
  type PublishedPlan,
  type ReadPlan,
} from '@coffer/contract';

/** Horizons by month and by year, each with what it adds and frees and where faster stops being worth it. */
export type Compared = Required<Pick<PublishedPlan, 'horizons' | 'worthIt'>>;

/** One way of using a budget, and where each month's cash goes, instrument by instrument; minor units. */
export interface BudgetWay extends Pick<PlannedWay, 'budget' | 'income' | 'proofs'> {
  readonly byMonth: readonly {
    readonly month: string;
    readonly members: readonly { readonly asked: number; readonly extra: number }[];
  }[];
}

/** What is asked: a plan document with horizons by month, and ways to compare for its budget. */
export interface PlanQuestion {
  readonly number: number;
  readonly document: unknown;
  /** Ways of using the budget; none where it is no matter of a budget. */
  readonly ways: readonly BudgetUse[];
  /** What a plan changes is asked, and nothing else. */
  readonly changes: boolean;
}

/** What is answered, one after another. */
export type PlanAnswer = { readonly number: number } & (
  | { readonly kind: 'faults'; readonly faults: readonly Fault[] }
  /** With what the contracts ask in a month, minor units. */
  | { readonly kind: 'planned'; readonly plan: PublishedPlan; readonly contractual: number }
  | { readonly kind: 'progress'; readonly done: number; readonly of: number }
  | { readonly kind: 'horizons'; readonly months: Compared; readonly years: Compared; readonly last: true }
  | { readonly kind: 'budgets'; readonly ways: readonly BudgetWay[]; readonly last: true }
  | { readonly kind: 'changes'; readonly changes: readonly PlanChange[]; readonly last: true }
);

/** Works a plan out, answer by answer, so that a newer question can end it on the way. */
export function* planWork({ number, document, ways, changes }: PlanQuestion): Generator<PlanAnswer, void> {
  const reading = readPlan(document);
  if (!reading.ok) {
    yield { number, kind: 'faults', faults: reading.faults };
    return;
  }
  const { plan } = reading;
  if (changes) {
    yield { number, kind: 'changes', changes: changesOf(plan, ways[0]), last: true };
    return;
  }
  const contractual = Math.round(contractualYearly(plan.members, plan.on) / 12);
  if (ways.length > 0) {
    yield { number, kind: 'planned', plan: { proofs: [] }, contractual };
    const made: BudgetWay[] = [];
    for (const use of ways) {
      made.push(wayOf(plan, use));
      yield { number, kind: 'progress', done: made.length, of: ways.length };
    }
    yield { number, kind: 'budgets', ways: made, last: true };
    return;
  }
  yield { number, kind: 'planned', plan: plannedJson(plan), contractual };
  if (plan.document.horizons) yield* comparedHorizons(plan, number, plan.document.horizons.count);
}

function* comparedHorizons(plan: ReadPlan, number: number, of: number): Generator<PlanAnswer, void> {
  const horizons: Horizon[] = [];
  for (const horizon of horizonsOf(plan)) {
    horizons.push(horizon);
    yield { number, kind: 'progress', done: horizons.length, of };
  }
  const years = horizons.filter(({ years: each }) => Number.isInteger(each));
  yield {
    number,
    kind: 'horizons',
    months: horizonsJson(plan, horizons),
    years: horizonsJson(plan, years),
    last: true,
  };
}

function wayOf(plan: ReadPlan, use: BudgetUse): BudgetWay {
  const { members, on, budget } = plan;
  const { made, ...way } = budgetWay(plan, budget?.monthly ?? 0, use);
  const months = made ? budgetMonths(members, on, made) : [];
  return {
    ...way,
    byMonth: months.map(({ month, members: each }) => ({ month: formatDay(month), members: each })),
  };
}

/** What a plan, or a way of using its budget, changes of each instrument. */
function changesOf(plan: ReadPlan, use: BudgetUse | undefined): PlanChange[] {
  const { members, documents, on, clearBy, fund, budget } = plan;
  const rowsOf = new Map(
    use !== undefined && budget
      ? (budgetWay(plan, budget.monthly, use).made?.members ?? []).map(({ name, rows }) => [name, rows])
      : planFor(members, on, clearBy ?? on, fund).flatMap((member) =>
          isPlanned(member) && !member.fund ? [[member.name, member.rows] as const] : [],
        ),
  );
  const paid = members.flatMap((member, at) => {
    const rows = rowsOf.get(member.name);
    const document = documents[at];
    return rows && document ? [{ member, document, rows }] : [];
  });
  return planChanges(paid, on);
}
