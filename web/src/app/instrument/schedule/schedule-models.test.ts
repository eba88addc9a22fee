import '@angular/compiler';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { parseDay, position, type CalendarDay, type Schedule } from '@coffer/core';
import { readInstrument, showAmount } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import type { GridCell, GridRow } from '../../figures/grid-model';
import { viewKindOf } from '../../kinds/view-kinds';
import { asOfBand, type Moment, type ScheduleModel, type ScheduleRow } from './schedule-model';

const day = (text: string): CalendarDay => parseDay(text) as CalendarDay;

function demo(file: string, more: object = {}): Schedule {
  const url = new URL(`../../../../../demo/instruments/${file}.json`, import.meta.url);
  const reading = readInstrument({ ...JSON.parse(readFileSync(url, 'utf8')), ...more });
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.instrument.schedule;
}

const october: Moment = { on: day('2026-10-31'), openFrom: day('2026-10-01'), openTo: day('2026-10-31') };
const model = (schedule: Schedule, at = october): ScheduleModel => viewKindOf(schedule).model(schedule, at);

function textOf(of: ScheduleModel, row: GridRow<ScheduleRow>, key: string): string {
  const column = of.columns.find((candidate) => candidate.key === key);
  if (!column || row.type !== 'item') return '';
  const cell = column.cell(row.item);
  const { text, chip }: GridCell = typeof cell === 'string' ? { text: cell } : cell;
  return chip?.text ?? text;
}

const files = [
  'annealing-line-loan',
  'batch-house-term-loan',
  'delivery-fleet-note',
  'lens-grinder-purchase',
  'working-capital-line',
  'roof-array-loan',
  'mould-shop-mortgage',
  'bonds-due-2034',
  'premium-notes-due-2031',
  'serial-bonds-due-2030',
  'mould-press-note',
];

describe('the period end among the rows', () => {
  it('stands after every row dated by then and before every later one, on any day', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...files),
        fc.integer({ min: day('2026-06-01'), max: day('2028-11-19') }),
        (file, on) => {
          const schedule = demo(file);
          const { rows } = model(schedule, { ...october, on });
          const at = rows.findIndex((row) => row.id === asOfBand);
          expect(at).toBeGreaterThanOrEqual(0);
          const dateOf = (row: GridRow<ScheduleRow>): number => {
            if (row.type !== 'item') return on;
            return schedule.kind !== 'bond'
              ? (schedule.date[row.item.index] as number)
              : (schedule.rows[row.item.index]?.due ?? 0);
          };
          expect(rows.slice(0, at).every((row) => dateOf(row) <= on)).toBe(true);
          expect(rows.slice(at + 1).every((row) => dateOf(row) > on)).toBe(true);
          const band = rows[at];
          const { accruedInterest, carrying } = position(schedule, on);
          const told = schedule.kind !== 'bond' ? accruedInterest : carrying;
          expect(band?.type === 'band' && band.text).toContain(showAmount(told, 2));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is not shown once nothing is owed', () => {
    const schedule = demo('ninety-day-bridge-note');
    const { rows } = model(schedule, { ...october, on: day('2026-12-31') });
    expect(rows.some((row) => row.id === asOfBand)).toBe(false);
  });
});

describe('what became of a payment', () => {
  const statuses = (file: string, more: object = {}, at = october): Record<string, string> => {
    const of = model(demo(file, more), at);
    return Object.fromEntries(of.rows.map((row) => [textOf(of, row, 'due'), textOf(of, row, 'status')]));
  };

  it('is told of each: assumed paid, paid late, next', () => {
    expect(statuses('delivery-fleet-note')).toMatchObject({
      '1 Jul 2026': 'assumed paid',
      '1 Aug 2026': 'paid 12 Aug',
      '1 Oct 2026': 'assumed paid',
      '1 Nov 2026': 'next',
      '1 Dec 2026': '',
    });
  });

  it('is short, missed, or paid on time where it was recorded so', () => {
    const paid = (on: string, amount: string): object => ({
      events: [{ type: 'paid', due: '2026-10-15', on, amount }],
    });
    const october15 = (more: object): string | undefined =>
      statuses('batch-house-term-loan', more)['15 Oct 2026'];
    expect(october15(paid('2026-10-15', '46611.29'))).toBe('paid');
    expect(october15(paid('2026-10-15', '40000.00'))).toBe('paid short');
    expect(october15(paid('2026-10-15', '0.00'))).toBe('missed');
  });
});

describe('the picture', () => {
  it('has a bar for each payment or coupon, and each bar its row', () => {
    for (const file of files) {
      const schedule = demo(file);
      const { pictures } = model(schedule);
      const picture = pictures.find(({ name }) => name === 'Each payment') ?? pictures[0];
      const payments =
        schedule.kind !== 'bond'
          ? schedule.n.filter((n) => n > 0).length
          : schedule.rows.filter(({ n }) => n > 0).length;
      expect(picture?.rows, file).toHaveLength(payments);
      expect(picture?.words).toContain(String(payments));
    }
  });

  it('says of running totals and of the share of interest what the schedule sums to', () => {
    const schedule = demo('batch-house-term-loan');
    if (schedule.kind !== 'loan') throw new Error('not a loan');
    const [, running, share] = model(schedule).pictures;
    const sum = (column: Int32Array | Float64Array | readonly number[], end: number): number =>
      [...column].slice(0, end).reduce((total, value) => total + value, 0);
    const past = [...schedule.date].slice(0, schedule.length).filter((day) => day <= october.on).length;
    expect(running?.words).toContain(showAmount(sum(schedule.interest, past), 2));
    expect(running?.words).toContain(showAmount(sum(schedule.principal, past), 2));
    const all = sum(schedule.payment, schedule.length);
    expect(share?.words).toContain(`${((100 * sum(schedule.interest, schedule.length)) / all).toFixed(1)}%`);
  });

  it('explains the figures of the whole life as they stand there', () => {
    for (const file of files) {
      const { life } = model(demo(file));
      for (const [name, text, how] of life) {
        if (!how || text.endsWith('%')) continue;
        expect(text, `${file} ${name}`).toBe(showAmount(how().amount, 2));
      }
    }
  });

  it('explains any figure of its table with the figure that stands there', () => {
    for (const file of files) {
      const of = model(demo(file));
      for (const row of of.rows.slice(0, 40)) {
        if (row.type !== 'item') continue;
        for (const column of of.columns.filter((candidate) => candidate.explains)) {
          const shown = textOf(of, row, column.key);
          const how = of.explain(row.item.index, column.key);
          const amount = column.key === 'unamortized' ? Math.abs(how?.amount ?? 0) : (how?.amount ?? 0);
          expect(
            [showAmount(amount, 2), amount === 0 ? '–' : ''],
            `${file} ${row.id} ${column.key}`,
          ).toContain(shown);
        }
      }
    }
  });
});
