import {
  entriesOnDay,
  interestExpense,
  maturities,
  parseDay,
  position,
  proofsOf,
  type Schedule,
} from '@coffer/core';
import { dearest, loan, mortgage, read } from './dear-documents.ts';

const on = parseDay('2026-10-31') as number;

/** What register and close ask of one instrument: figures of two days, expense, maturities, entries, proofs. */
function worked(schedule: Schedule): number {
  const before = position(schedule, on - 31);
  const at = position(schedule, on);
  const due = maturities(schedule, on).length + entriesOnDay(schedule, on).length + proofsOf(schedule).length;
  return at.current - before.current + interestExpense(schedule, on - 31, on) + due;
}

function timed<Made>(work: () => Made): { readonly ms: number; readonly made: Made } {
  const from = performance.now();
  const made = work();
  return { ms: performance.now() - from, made };
}

/**
 * Times the dearest documents that are accepted, against one plain schedule of 360 payments: cold, as when nobody has
 * asked before, and again with what their version made kept.
 */
export function benchDearest(): string[] {
  const plain = loan('Plain', 360, 'month');
  let unit = 0;
  for (let round = 0; round < 40; round += 1) unit = timed(() => worked(read(plain).schedule)).ms;
  const line = (name: string, cold: number, warm: number): string =>
    `${name.padEnd(62)} ${cold.toFixed(0).padStart(6)} ms  ${(cold / unit).toFixed(0).padStart(6)} ×` +
    `   again ${warm.toFixed(1).padStart(6)} ms`;
  const mortgages = timed(() =>
    Array.from({ length: 20 }, (_, at) => {
      const { schedule } = read(mortgage(at));
      worked(schedule);
      return schedule;
    }),
  );
  const again = timed(() => mortgages.made.forEach(worked)).ms;
  const lines = [line('20 mortgages with effective costs, an extra payment and a fee', mortgages.ms, again)];
  for (const document of dearest()) {
    const { ms, made } = timed(() => {
      const { schedule } = read(document);
      worked(schedule);
      return schedule;
    });
    lines.push(line(document.name, ms, timed(() => worked(made)).ms));
  }
  return lines;
}
