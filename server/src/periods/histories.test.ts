import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { standsOn, type PlainLoan, type PlainPayment, type PlainStand } from '../testing/plain-books.ts';
import { emptyBooks, loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

// The seed that a hunt names repeats what it found.
const seed = Number(process.env['COFFER_SEED'] ?? 20_260_930);

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start(emptyBooks('2026-01-01'));
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

/** Numbers that look random and come again with their seed (mulberry32, public domain). */
function drawn(from: number): (below: number) => number {
  let state = from;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

const dayOf = (text: string): number => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
const textOf = (day: number): string => new Date(day * 86_400_000).toISOString().slice(0, 10);
const money = (minor: number): string => (minor / 100).toFixed(2);
const monthEnd = (month: number): number => Date.UTC(2026, month, 0) / 86_400_000;

function documentOf({ name, amount, rate, start, dues, payment, paid }: PlainLoan): object {
  const phases = [{ type: 'level', count: dues.length, payment: money(payment) }];
  return {
    ...loanDocument(name),
    amount: money(amount),
    start: textOf(start),
    rate: { annual: `${(rate / 100).toFixed(2)}%`, dayCount: 'ACT/365F' },
    payments: { every: 'month', first: textOf(dues[0] as number), phases },
    events: paid.map(({ due, on, amount: sum }) => ({
      type: 'paid',
      due: textOf(due),
      on: textOf(on),
      amount: money(sum),
    })),
  };
}

/** An instrument with its history so far. */
interface Played {
  loan: PlainLoan;
  id: string;
  version: number;
  withdrawn: boolean;
}

/** Plays random months: what is taken on, recorded, corrected, taken back, changed and withdrawn, and then locked. */
class Play {
  readonly played: Played[] = [];
  private readonly draw = drawn(seed);
  /** What closed months showed, by the address it was read from. */
  private readonly seen = new Map<string, string>();

  async month(month: number): Promise<void> {
    const [opens, ends] = [monthEnd(month - 1) + 1, monthEnd(month)];
    for (let more = this.draw(4); more >= 0 && this.played.length < 20; more -= 1) await this.takeOn(opens);
    for (const one of this.played) if (!one.withdrawn) await this.change(one, opens, ends);
    const end = textOf(ends);
    const accruals = this.draw(2) === 0 ? 'reversed' : 'standing';
    await preparer.call('PUT', `/api/periods/${end}/accruals`, { accruals });
    const { status, text } = await preparer.insist('POST', `/api/periods/${end}/lock`, {});
    expect(status, text).toBe(200);
    await this.compare(end, ends);
    for (const path of [
      `/api/periods/${end}/close`,
      `/api/journal.csv?from=${textOf(opens)}&to=${end}`,
      `/api/register?on=${end}`,
    ]) {
      this.seen.set(path, (await preparer.call('GET', path)).text);
    }
    for (const [path, before] of this.seen) {
      expect((await preparer.call('GET', path)).text, path).toBe(before);
    }
    expect(await server.disagreements()).toEqual([]);
  }

  /** Takes on a loan that begins in the open month or in one that is closed. */
  private async takeOn(opens: number): Promise<void> {
    const start = Math.max(dayOf('2026-01-01'), opens + this.draw(80) - 50);
    const count = 2 + this.draw(11);
    const begins = new Date(start * 86_400_000);
    const dues = Array.from({ length: count }, (_, at) => {
      const due = Date.UTC(2026, begins.getUTCMonth() + 1 + at, Math.min(28, begins.getUTCDate()));
      return due / 86_400_000;
    });
    const amount = 100_000 + this.draw(9_000_000);
    const rate = 1 + this.draw(1500);
    const payment = Math.ceil(amount / count + (amount * rate) / 120_000);
    const name = `Loan ${100 + this.played.length}`;
    const loan: PlainLoan = { name, amount, rate, start, dues, payment, paid: [] };
    const { status, text, body } = await preparer.insist('POST', '/api/instruments', {
      document: documentOf(loan),
    });
    expect(status, text).toBe(200);
    this.played.push({ loan, id: body.id, version: 1, withdrawn: false });
  }

  private async change(one: Played, opens: number, ends: number): Promise<void> {
    switch (this.draw(7)) {
      case 0:
      case 1:
      case 2:
        return this.record(one, opens, ends);
      case 3:
        return this.put(one, { ...one.loan, rate: 1 + this.draw(1500) });
      case 4:
        return this.takeBack(one);
      case 5:
        return this.move(one);
      default:
        if (this.draw(4) === 0) await this.withdraw(one);
    }
  }

  /** Records a payment due in the open month or before it: as agreed, short, over or missed, on its day or late. */
  private async record(one: Played, opens: number, ends: number): Promise<void> {
    const { loan, id, version } = one;
    const open = loan.dues.filter((due) => due > opens - 62 && due <= ends);
    const due = open[this.draw(Math.max(1, open.length))];
    if (due === undefined || loan.paid.some((payment) => payment.due === due)) return;
    const on = due + (this.draw(2) === 0 ? 0 : this.draw(40));
    const amounts = [
      0,
      Math.round(loan.payment / 3),
      loan.payment,
      loan.payment,
      3 * loan.payment,
      20 * loan.payment,
    ];
    const amount = amounts[this.draw(amounts.length)] as number;
    const made: PlainPayment = { due, on, amount };
    const sent = { instrumentId: id, version, due: textOf(due), on: textOf(on), amount: money(amount) };
    const { status, text } = await preparer.insist('POST', '/api/payments', { payments: [sent] });
    // Once a loan is repaid nothing falls due; what comes late on the due date itself may repay it.
    const owed = ({ outstanding, unpaid }: PlainStand): number => outstanding + unpaid;
    if (owed(standsOn(loan, due - 1)) === 0) expect(status, text).toBe(422);
    if (status === 422 && owed(standsOn(loan, due)) === 0) return;
    expect(status, text).toBe(200);
    one.loan = { ...loan, paid: [...loan.paid, made] };
    one.version += 1;
  }

  private async put(one: Played, loan: PlainLoan): Promise<void> {
    const sent = { version: one.version, document: documentOf(loan), reason: 'The agreement says otherwise' };
    const { status, text } = await preparer.insist('PUT', `/api/instruments/${one.id}`, sent);
    expect(status, text).toBe(200);
    one.loan = loan;
    one.version += 1;
  }

  /** Moves an agreement of which nothing is recorded by whole months, back or on, past the open month too. */
  private async move(one: Played): Promise<void> {
    if (one.loan.paid.length > 0) return;
    const by = this.draw(8) - 3;
    const later = (day: number): number => {
      const on = new Date(day * 86_400_000);
      const ofMonth = Math.min(28, on.getUTCDate());
      return Date.UTC(on.getUTCFullYear(), on.getUTCMonth() + by, ofMonth) / 86_400_000;
    };
    const start = later(one.loan.start);
    if (start < dayOf('2026-01-01')) return;
    await this.put(one, { ...one.loan, start, dues: one.loan.dues.map(later) });
  }

  private async takeBack(one: Played): Promise<void> {
    const payment = one.loan.paid[this.draw(Math.max(1, one.loan.paid.length))];
    if (!payment) return;
    const { status, text } = await preparer.insist('POST', '/api/payments/taken-back', {
      payments: [{ instrumentId: one.id, version: one.version, due: textOf(payment.due) }],
      reason: 'Recorded by mistake',
    });
    expect(status, text).toBe(200);
    one.loan = { ...one.loan, paid: one.loan.paid.filter((other) => other !== payment) };
    one.version += 1;
  }

  private async withdraw(one: Played): Promise<void> {
    const sent = { version: one.version, reason: 'Taken on by mistake' };
    const { status, text } = await preparer.call('POST', `/api/instruments/${one.id}/withdrawal`, sent);
    expect(status, text).toBe(200);
    one.withdrawn = true;
  }

  /** The ledger and the report of a locked month against the model. */
  private async compare(end: string, day: number): Promise<void> {
    const { body: register } = await preparer.call('GET', `/api/register?on=${end}`);
    const sums = await server
      .database('entry')
      .join('entry_line', (on) => {
        on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
      })
      .where('period_end', '<=', end)
      .groupBy('instrument_id', 'role')
      .select<{ instrument_id: string; role: string; sum: string }[]>(
        'instrument_id',
        'role',
        server.database.raw('sum(debit - credit) as sum'),
      );
    const held = (id: string, ...roles: string[]): number =>
      sums
        .filter((row) => row.instrument_id === id && roles.includes(row.role))
        .reduce((total, row) => total + Number(row.sum), 0);
    for (const { loan, id, withdrawn } of this.played) {
      const nothing = { outstanding: 0, accrued: 0, unpaid: 0, overpaid: 0, cash: 0, expense: 0 };
      const is = withdrawn ? nothing : standsOn(loan, day);
      const row = register.rows.find((candidate: { id: string }) => candidate.id === id);
      const { outstanding = 0, accruedInterest = 0, unpaidInterest = 0, overpaid = 0 } = row?.figures ?? {};
      const said = `${JSON.stringify(loan)} at ${end}, seed ${seed}`;
      expect({ outstanding, accrued: accruedInterest, unpaid: unpaidInterest, overpaid }, said).toEqual({
        outstanding: is.outstanding,
        accrued: is.accrued,
        unpaid: is.unpaid,
        overpaid: is.overpaid,
      });
      const ledger = {
        outstanding: 0 - held(id, 'loan-payable', 'current-portion'),
        owed: 0 - held(id, 'interest-payable'),
        overpaid: held(id, 'overpayment'),
        cash: held(id, 'cash'),
        expense: held(id, 'interest-expense'),
      };
      expect(ledger, said).toEqual({
        outstanding: is.outstanding,
        owed: is.accrued + is.unpaid,
        overpaid: is.overpaid,
        cash: is.cash,
        expense: is.expense,
      });
    }
  }
}

// Double-entry bookkeeping, common practice: whatever was entered when, the ledger stands where everything known puts it.
describe('twenty random histories', () => {
  it('leave ledger, cash and reports where a model of the books puts them, and closed months as they were', async () => {
    const play = new Play();
    for (let month = 1; month <= 12; month += 1) await play.month(month);
    expect(play.played.length).toBeGreaterThan(10);
  }, 120_000);
});
