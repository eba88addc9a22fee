import { BeyondExact } from '../../faults/beyond-exact.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { firstWhere } from '../../search/first-where.ts';
import { duesBy, type Contract } from './contract.ts';
import { isCleared, paidSchedule } from './paid-schedule.ts';
import { estimatedLeft, follow, type RegularContract } from './regular-contract.ts';

const mostSteps = 12;

/**
 * The least amount, in minor units, that clears a loan within so many dues where each payment is at least that, found
 * exactly: one minor unit less does not.
 */
export function leastLevel(clears: (level: number) => boolean, guess: number): number {
  let [low, high] = clears(guess) ? [-1, guess] : [guess, Infinity];
  // What is left falls as the payment grows, so the answer is bracketed from the guess outward.
  for (let step = 1; high === Infinity; step *= 2) {
    const level = low + step;
    if (clears(level)) high = level;
    else low = level;
  }
  for (let step = 1; low === -1 && high > 0; step *= 2) {
    const level = Math.max(0, high - step);
    if (!clears(level)) low = level;
    else {
      high = level;
      if (level === 0) return 0;
    }
  }
  return firstWhere(low, high, clears);
}

/** The least level of a regular contract: begun where doubles say it is, so that a few trials settle it. */
export function leastOfRegular(contract: RegularContract, least: number, through: number): number {
  let guess = contract.balance / through;
  for (let step = 0; step < mostSteps; step += 1) {
    const { left, slope } = estimatedLeft(contract, guess, through);
    if (slope === 0) break;
    const better = guess - left / slope;
    const settled = Math.abs(better - guess) < 0.01;
    guess = better;
    if (settled) break;
  }
  const begun = Number.isFinite(guess) ? Math.max(0, Math.ceil(guess)) : contract.balance;
  return leastLevel((level) => follow(contract, Math.max(level, least), through).clearedBy >= 0, begun);
}

/** The least level of any contract, by schedules of its own rules. */
export function leastOfAny(contract: Contract, least: number, clearBy: CalendarDay, guess: number): number {
  return leastLevel((level) => clearsBy(contract, Math.max(level, least), clearBy), guess);
}

/** Whether payments of at least a level clear a loan by a day; also where they would before it is drawn on. */
export function clearsBy(contract: Contract, level: number, clearBy: CalendarDay): boolean {
  const made = withinReach(() => paidSchedule(contract, raised(contract, level, duesBy(contract, clearBy))));
  if (made === 'outgrown') return false;
  return made === undefined || isCleared(made, clearBy);
}

/** What a trial makes, unless what is owed outgrows what can be kept exactly: then too little was paid. */
function withinReach<Made>(trial: () => Made): Made | 'outgrown' {
  try {
    return trial();
  } catch (error) {
    if (error instanceof BeyondExact) return 'outgrown';
    throw error;
  }
}

/** What is paid on the first dues of a contract where each payment is at least a level. */
export function raised({ dues }: Contract, level: number, through: number): number[] {
  return dues.slice(0, through).map(({ amount }) => Math.max(level, amount));
}
