import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { coffer } from './testing/coffer.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'coffer-several-'));
const file = (name: string, value: unknown): string => {
  const path = join(folder, name);
  writeFileSync(path, typeof value === 'string' ? value : JSON.stringify(value));
  return path;
};
const demo = (name: string): string => join(root, 'demo/instruments', `${name}.json`);
const months = ['--from', '2026-11-01', '--to', '2026-12-31'];

describe('several instruments on the command line', () => {
  // The balance after the payment of November, as the portfolio's published form has it.
  it('are told by month, as JSON, as lines and as a table that cross-foots', () => {
    const files = [demo('annealing-line-loan'), demo('bonds-due-2034')];
    const json = JSON.parse(coffer(['portfolio', ...files, ...months, '--json']).out);
    expect(json.periods).toEqual(['2026-11-30', '2026-12-31']);
    expect(json.rows[0]).toEqual({ name: 'Annealing line loan', values: ['406662.02', '399349.03'] });
    const [head, ...lines] = coffer(['portfolio', ...files, ...months, '--csv'])
      .out.trim()
      .split('\n');
    expect(head).toBe('name,2026-11-30,2026-12-31');
    expect(lines.at(-1)).toBe('All instruments,3406662.02,3399349.03');
    const text = coffer(['portfolio', ...files, ...months]).out;
    expect(text).toContain('3,406,662.02');
    expect(text.match(/holds/g)).toHaveLength(3);
  });

  it('run as a scenario makes them', () => {
    const changes = [
      {
        instrument: 'Annealing line loan',
        events: [{ type: 'extra-principal', on: '2026-11-20', amount: '6662.02' }],
      },
    ];
    const scenario = file('scenario.json', { document: 'coffer.scenario/1', name: 'Less', changes });
    const made = JSON.parse(
      coffer(['portfolio', demo('annealing-line-loan'), ...months, '--scenario', scenario, '--json']).out,
    );
    expect(made.rows[0].values[0]).toBe('400000.00');
  });

  it('are planned from one document', () => {
    const instrument = {
      document: 'coffer.instrument/1',
      kind: 'loan',
      name: 'A',
      currency: 'EUR',
      amount: '5600.00',
      start: '2026-01-15',
      rate: { annual: '7.9%' },
      payments: { every: 'month', first: '2026-02-15', phases: [{ type: 'level', count: 120 }] },
    };
    const plan = {
      document: 'coffer.plan/1',
      on: '2026-10-31',
      clearBy: '2030-12-31',
      instruments: [{ instrument }],
    };
    const path = file('plan.json', plan);
    expect(JSON.parse(coffer(['plan', path, '--json']).out).loans[0]).toMatchObject({
      payment: '125.12',
      payments: 50,
    });
    expect(coffer(['plan', path]).out).toMatch(/^2030\s+0\.00/m);
  });

  it.each([
    [['portfolio', ...months], 'portfolio takes one FILE or more'],
    [
      ['portfolio', demo('bonds-due-2034'), demo('bonds-due-2034'), ...months],
      'are both named 5.50% bonds due 2034',
    ],
    [
      ['portfolio', demo('bonds-due-2034'), '--from', '2027-01-01', '--to', '2026-01-01'],
      '--to lies before --from',
    ],
    [
      ['portfolio', demo('bonds-due-2034'), ...months, '--show', 'debt'],
      '--show debt is not one of closing, carrying',
    ],
    [
      ['portfolio', demo('bonds-due-2034'), '--from', '1900-01-01', '--to', '2026-01-01'],
      'at most 1200 are shown',
    ],
    [
      ['portfolio', demo('bonds-due-2034'), ...months, '--fiscal-year-end', '13'],
      'not a whole number from 1 to 12',
    ],
    [
      ['portfolio', demo('bonds-due-2034'), ...months, '--scenario', file('none.json', '{')],
      'This is not JSON',
    ],
    [['plan', file('empty.json', {})], 'document: This key is missing'],
  ])('are refused where they are asked for wrongly: %j', (args, message) => {
    const { status, err, out } = coffer([...args]);
    expect([status, out]).toEqual([2, '']);
    expect(err).toContain(message);
  });
});
