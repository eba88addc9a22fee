import { readFileSync } from 'node:fs';
import { Caller } from './caller.ts';

// How much memory a server holds while mixed work goes on: resident, with what all of its threads hold, after each of them
// has collected what is of no more use. It is not to grow between the minute when everything has been done once and the end.
const [, , address = '', log = '', minutes = '20'] = process.argv;
const endsOn = '2026-10-31';

const ilka = await Caller.loggedIn(address, 'ilka', 'molten-sand-1450');
const bram = await Caller.loggedIn(address, 'bram', 'clear-lens-0730');
const { rows } = JSON.parse(await ilka.sure('GET', `/api/register?on=${endsOn}`)) as {
  rows: { id: string }[];
};
const ids = rows.map(({ id }) => id);

/** One round of what people do in a month, over an instrument that is another one each time. */
async function round(at: number): Promise<void> {
  const id = ids[at % ids.length] ?? '';
  await bram.sure('GET', `/api/register?on=${endsOn}`);
  await ilka.sure('GET', `/api/instruments/${id}`);
  await ilka.sure('GET', `/api/instruments/${id}/schedule.csv`);
  await ilka.sure('GET', `/api/instruments/${id}/schedule.xlsx`);
  await bram.sure('GET', `/api/periods/${endsOn}/close`);
  await bram.sure('GET', '/api/portfolio?from=2026-10-01&to=2027-09-30&by=month&show=closing');
  await ilka.sure('POST', '/api/scenarios/side-by-side', { on: endsOn, scenarios: [] });
  await ilka.sure('GET', '/api/payments');
  await ilka.sure('GET', '/api/journal.xlsx?from=2026-09-01&to=2026-10-31');
  // Changed and changed again: the versions are kept in the database, not in the server.
  const { document, version } = JSON.parse(await ilka.sure('GET', `/api/instruments/${id}`)) as {
    document: Record<string, unknown>;
    version: number;
  };
  const change = { document: { ...document, agreement: `Round ${at}` }, version, reason: 'Mixed work' };
  await ilka.sure('PUT', `/api/instruments/${id}`, change);
  // What is refused, and what is tried in vain.
  await ilka.call('POST', '/api/instruments', { document: { nothing: at } });
  if (at % 10 === 0)
    await new Caller(address).call('POST', '/api/session', { logIn: 'nobody', password: 'x' });
}

const begun = Date.now();
const passed = (): number => (Date.now() - begun) / 60_000;
let rounds = 0;
while (passed() < Number(minutes)) {
  await round(rounds);
  rounds += 1;
}

const sizes = readFileSync(log, 'utf8').trim().split('\n').map(Number);
const perMinute = sizes.length / passed();
/** The middle of what was seen in a minute, megabytes. */
const median = (minute: number): number => {
  const of = sizes
    .slice(Math.round((minute - 1) * perMinute), Math.round(minute * perMinute))
    .sort((a, b) => a - b);
  return (of[Math.floor(of.length / 2)] ?? 0) / 1_048_576;
};
const early = Math.max(1, Math.round(Number(minutes) / 4));
const [before, after] = [median(early), median(Math.floor(Number(minutes)))];
console.log(
  Array.from({ length: Math.floor(Number(minutes)) }, (_, at) => median(at + 1).toFixed(0)).join(' '),
  'MB, minute by minute',
);
const grown = (100 * (after - before)) / before;
console.log(
  `${rounds} rounds of mixed work: ${before.toFixed(0)} MB in minute ${early}, ${after.toFixed(0)} MB in minute ${minutes}, ${grown.toFixed(1)} % more`,
);
if (grown >= 5) {
  console.error('It grew by five of a hundred or more.');
  process.exitCode = 1;
}
