import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { answerLine } from './batch.ts';
import { commands } from './commands/commands.ts';
import { helpOf } from './help.ts';
import { coffer } from './testing/coffer.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const read = (path: string): string => readFileSync(`${root}/${path}`, 'utf8');

describe('a batch', () => {
  const loan = JSON.parse(read('demo/instruments/annealing-line-loan.json'));
  const calls = [
    ['schedule', '--rows', '13-14'],
    ['position', '--on', '2026-10-31'],
    ['entries', '--from', '2026-10-01', '--to', '2026-10-31'],
  ];

  it('gives what each command gives by itself', () => {
    const { answers } = JSON.parse(JSON.stringify(answerLine(JSON.stringify({ document: loan, calls }))));
    calls.forEach(([name = '', ...args], at) => {
      const alone = coffer([name, '-', ...args, '--json'], JSON.stringify(loan));
      expect(answers[at]).toEqual({ ok: JSON.parse(alone.out) });
    });
  });

  it('answers in order, and goes on after what it cannot read', () => {
    const line = (id: unknown, document: object, asked: unknown): string =>
      JSON.stringify({ id, document, calls: asked });
    const { status, out } = coffer(
      ['batch'],
      [
        line('first', loan, [['position', '--on', '2026-10-31']]),
        '{ "id": 2,',
        '',
        line(3, { ...loan, amount: '-1', colour: 'green' }, [['schedule']]),
        line(4, loan, [['position'], ['guess'], ['schedule', '--colour'], ['schedule', '-'], ['schedule']]),
        line(5, loan, 'schedule'),
        line('last', loan, [['position', '--on', '2027-10-31']]),
      ].join('\n'),
    );
    expect(status).toBe(0);
    const answers = out
      .trimEnd()
      .split('\n')
      .map((text) => JSON.parse(text));
    expect(answers.map(({ id }) => id)).toEqual(['first', null, 3, 4, 5, 'last']);
    expect(answers[0].answers[0].ok.on).toBe('2026-10-31');
    expect(answers[1].answers[0].faults[0].message).toMatch(/This is not JSON/);
    expect(answers[2].answers[0].faults.map(({ key }: { key: string }) => key)).toEqual(['amount', 'colour']);
    const said = answers[3].answers.map(
      (answer: { faults?: { message: string }[] }) => answer.faults?.[0]?.message,
    );
    expect(said.slice(0, 4).map((message: string) => message.slice(0, 24))).toEqual([
      '--on is missing; give a ',
      'There is no command gues',
      "Unknown option '--colour",
      'In a batch the document ',
    ]);
    expect(answers[3].answers[4].ok.kind).toBe('loan');
    expect(answers[4].answers[0].faults[0].key).toBe('calls');
    expect(answers[5].answers[0].ok.on).toBe('2027-10-31');
  });

  it('whose file is not there ends with 2', () => {
    expect(coffer(['batch', 'nowhere.jsonl'])).toMatchObject({
      status: 2,
      out: '',
      err: expect.stringContaining('There is no file nowhere.jsonl'),
    });
  });
});

it('help shows every command with its options', () => {
  expect(read('docs/commands.txt')).toBe(helpOf(commands));
});
