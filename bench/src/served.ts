import { Caller } from './caller.ts';
import { dearest, mortgage } from './dear-documents.ts';

// How much a running Coffer with its demo company asks of who waits, cold (`ask` after a start) and again.
const [, , phase, address = ''] = process.argv;
const endsOn = '2026-10-31';

const asking = await Caller.loggedIn(address, 'ilka', 'molten-sand-1450');
const other = await Caller.loggedIn(address, 'bram', 'clear-lens-0730');

/** How long a piece of work takes, and how long somebody else waits meanwhile for a light call at the longest. */
async function timed(work: () => Promise<unknown>): Promise<{ ms: number; waited: number }> {
  let going = true;
  let waited = 0;
  const others = (async (): Promise<void> => {
    while (going) {
      const from = performance.now();
      await other.sure('GET', '/api/company');
      waited = Math.max(waited, performance.now() - from);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  })();
  const from = performance.now();
  await work();
  const ms = performance.now() - from;
  going = false;
  await others;
  return { ms, waited };
}

const line = (name: string, one: string, two: string, three: string): void => {
  console.log(`${name.padEnd(76)} ${one.padStart(8)} ${two.padStart(8)} ${three.padStart(8)}`);
};
const shown = (ms: number): string => `${ms.toFixed(0)} ms`;

async function twice(name: string, path: string): Promise<void> {
  const [cold, again] = [
    await timed(() => asking.sure('GET', path)),
    await timed(() => asking.sure('GET', path)),
  ];
  line(name, shown(cold.ms), shown(again.ms), shown(Math.max(cold.waited, again.waited)));
}

async function takeOn(document: { readonly name: string }): Promise<void> {
  const { ms, waited } = await timed(() => asking.sure('POST', '/api/instruments', { document }));
  line(`taking on: ${document.name}`, shown(ms), '', shown(waited));
}

async function ofCompany(): Promise<void> {
  await twice('register', `/api/register?on=${endsOn}`);
  await twice('payments', '/api/payments');
  await twice('portfolio', `/api/portfolio?by=month&from=2026-07-01&to=2027-06-30&show=closing`);
  await twice('close', `/api/periods/${endsOn}/close`);
  await twice('what differs from the month before', `/api/periods/${endsOn}/differences`);
}

async function ofDearest(): Promise<void> {
  const { rows } = JSON.parse(await asking.sure('GET', `/api/register?on=${endsOn}`)) as {
    rows: { id: string; name: string }[];
  };
  for (const { name } of dearest()) {
    const id = rows.find((each) => each.name === name)?.id ?? '';
    const at = `/api/instruments/${id}`;
    await twice(`${name}: its page`, at);
    await twice('  schedule as workbook', `${at}/schedule.xlsx`);
    await twice('  working paper', `${at}/working-paper.pdf?on=${endsOn}`);
  }
}

line('', 'cold', 'again', 'others');
if (phase === 'mortgages') {
  for (let at = 0; at < 20; at += 1) await takeOn(mortgage(at));
} else if (phase === 'dearest') {
  for (const document of dearest()) await takeOn(document);
} else {
  await ofCompany();
  if (phase === 'ask-dearest') await ofDearest();
}
