import * as v from 'valibot';
import {
  byContract,
  debtKindOf,
  formatAmount,
  type BudgetUse,
  type FundRule,
  type PlanMember,
} from '@coffer/core';
import { AmountReader } from '../document/amount-reader.ts';
import { dayOf, rateOf } from '../document/rate-terms-of.ts';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { readInstrument } from '../document/read-instrument.ts';
import { faultsOf, type Fault } from '../faults/fault.ts';
import { planDocument, type PlanDocument } from './plan-document.ts';

/** A plan that was read: its members in one currency or several. */
export interface ReadPlan {
  readonly document: PlanDocument;
  readonly on: number;
  readonly clearBy: number | undefined;
  readonly members: readonly PlanMember[];
  /** The members' documents, in their order. */
  readonly documents: readonly InstrumentDocument[];
  readonly fund: FundRule;
  readonly budget: { readonly monthly: number; readonly use: BudgetUse } | undefined;
  /** Minor units. */
  readonly income: { readonly outlays: number; readonly operatingCash: number | undefined } | undefined;
}

/** Either the plan, or everything that is wrong with it. */
export type PlanReading =
  { readonly ok: true; readonly plan: ReadPlan } | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads a plan document given as a value (parsed JSON): all faults at once, naming the key. */
export function readPlan(value: unknown): PlanReading {
  const parsed = v.safeParse(planDocument, value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.issues) };
  const document = parsed.output;
  const faults = faultsOfDays(document);
  const members = document.instruments.flatMap((each, at) =>
    memberOf(each, `instruments.${at}`, document, faults),
  );
  faults.push(...sameNames(members.map(({ member }) => member)));
  if (faults.length > 0) return { ok: false, faults };
  const { currency, digits } = members[0]?.member.schedule.terms ?? { currency: '', digits: 2 };
  const read = new AmountReader(currency, digits);
  const { budget, income, fund } = document;
  const plan: ReadPlan = {
    document,
    on: dayOf(document.on),
    clearBy: document.clearBy === undefined ? undefined : dayOf(document.clearBy),
    members: members.map(({ member }) => member),
    documents: members.map((each) => each.document),
    fund: { annualRate: rateOf(fund?.rate ?? '0%'), every: fund?.every ?? 'month' },
    budget: budget && { monthly: read.positive('budget.monthly', budget.monthly), use: budget.use },
    income: income && {
      outlays: read.amount('income.outlays', income.outlays ?? '0'),
      operatingCash:
        income.operatingCash === undefined
          ? undefined
          : read.amount('income.operatingCash', income.operatingCash),
    },
  };
  const all = [...read.faults, ...faultsTogether(plan)];
  return all.length > 0 ? { ok: false, faults: all } : { ok: true, plan };
}

function faultsOfDays({ on, clearBy, horizons, budget }: PlanDocument): Fault[] {
  if (clearBy === undefined && !horizons && !budget) {
    return [
      { key: 'clearBy', message: 'Say what is wished: a day to clear by, horizons to compare, or a budget.' },
    ];
  }
  if (clearBy === undefined || clearBy > on) return [];
  return [
    {
      key: 'clearBy',
      message: `Found ${clearBy}; the wished day must come after ${on}, from which the plan starts.`,
    },
  ];
}

interface ReadMember {
  readonly member: PlanMember;
  readonly document: InstrumentDocument;
}

function memberOf(
  { instrument, least, prepay }: PlanDocument['instruments'][number],
  key: string,
  { on }: PlanDocument,
  faults: Fault[],
): ReadMember[] {
  const reading = readInstrument(instrument);
  if (!reading.ok) {
    faults.push(
      ...reading.faults.map((fault) => ({
        ...fault,
        key: [`${key}.instrument`, fault.key].filter(Boolean).join('.'),
      })),
    );
    return [];
  }
  const { document, schedule } = reading.instrument;
  const kind = debtKindOf(schedule);
  const owed = kind.owed(schedule, dayOf(on));
  if (owed === 0) {
    faults.push({
      key: `${key}.instrument`,
      message: `Nothing is owed on ${document.name} on ${on}; leave it out.`,
    });
    return [];
  }
  const raisable = kind.contract(schedule, dayOf(on)) !== undefined;
  if (prepay && !raisable) {
    faults.push({
      key: `${key}.prepay`,
      message: `${document.name} has no payments that could be raised; a fund can provide for it.`,
    });
  }
  const { currency, digits } = schedule.terms;
  const read = new AmountReader(currency, digits);
  const minor = least === undefined ? 0 : read.positive(`${key}.least`, least);
  faults.push(...read.faults);
  if (minor > owed) {
    const message = `Found ${least}; that is above the ${formatAmount(owed, digits)} owed on ${on}.`;
    faults.push({ key: `${key}.least`, message });
  }
  const member = { name: document.name, schedule, least: minor, prepay: prepay ?? raisable };
  return [{ member, document }];
}

function sameNames(members: readonly PlanMember[]): Fault[] {
  return members.flatMap(({ name }, at) => {
    const first = members.findIndex((each) => each.name === name);
    if (first === at) return [];
    return [
      {
        key: `instruments.${at}.instrument.name`,
        message: `Two instruments are named ${name}; each needs a name of its own.`,
      },
    ];
  });
}

/** What does not go together: currencies that are added, a fund without its rate, an order that names no member. */
function faultsTogether({ document, members, budget, clearBy }: ReadPlan): Fault[] {
  const faults: Fault[] = [];
  const currencies = [...new Set(members.map(({ schedule }) => schedule.terms.currency))];
  if (currencies.length > 1) {
    for (const key of ['horizons', 'budget', 'income'] as const) {
      if (document[key] === undefined) continue;
      const message = `Instruments in ${currencies.join(' and ')} are never added; make a plan of each currency.`;
      faults.push({ key, message });
    }
  }
  const provided = members.filter(({ prepay }) => !prepay);
  if (provided.length > 0 && !document.fund && (clearBy !== undefined || document.horizons)) {
    const names = provided.map(({ name }) => name).join(', ');
    faults.push({
      key: 'fund',
      message: `${names} cannot be repaid early; give the rate of the fund that provides for it.`,
    });
  }
  if (document.income?.taxRate !== undefined && Number.parseFloat(document.income.taxRate) >= 100) {
    faults.push({
      key: 'income.taxRate',
      message: `Found ${document.income.taxRate}; a tax takes less than all.`,
    });
  }
  if (!budget || faults.length > 0) return faults;
  if (Array.isArray(budget.use)) {
    const names = members.map(({ name }) => name);
    const use = budget.use as readonly string[];
    const unknown = use.filter((name) => !names.includes(name));
    if (unknown.length > 0) {
      faults.push({
        key: 'budget.use',
        message: `There is no ${unknown.join(', ')} among the instruments of the plan.`,
      });
    }
    const twice = new Set(use.filter((name, at) => use.indexOf(name) !== at));
    if (twice.size > 0) {
      faults.push({
        key: 'budget.use',
        message: `${[...twice].join(', ')} stands twice in the order; each has one turn.`,
      });
    }
  }
  return faults;
}

/** What a member is paid at least each time: as stated, or as its contract asks first. Minor units. */
export function leastOf({ least, schedule }: PlanMember, on: number): number {
  return least > 0 ? least : byContract(schedule, on).payment;
}
