import { expect } from 'vitest';
import {
  money,
  monthsOn,
  nothing,
  textOf,
  type PlainInstrument,
  type PlainStand,
} from '../plain/plain-stand.ts';
import type { Caller, TestServer } from '../test-server.ts';
import { bonds } from './bonds.ts';
import { drawn, type Draw } from './drawn.ts';
import { lines } from './lines.ts';
import { loans } from './loans.ts';
import type { Move, OpenMonth, Player } from './moves.ts';

type AnyMove = Move<PlainInstrument>;

/** An instrument in the books, and who plays it. */
class Played<Of extends PlainInstrument> {
  version = 1;
  withdrawn = false;

  constructor(
    readonly player: Player<Of>,
    readonly id: string,
    public plain: Of,
  ) {}

  standsOn(day: number): PlainStand {
    return this.withdrawn ? nothing : this.plain.standsOn(day);
  }

  /** What befalls it; given back is how to keep that it did. */
  next(draw: Draw, month: OpenMonth): { readonly move: Move<Of>; readonly keep: () => void } | undefined {
    const move = this.player.move(draw, this.plain, month);
    if (!move) return undefined;
    const keep = (): void => {
      this.plain = move.to;
      this.version += 1;
    };
    return { move, keep };
  }
}

type AnyPlayed = Pick<Played<never>, 'id' | 'withdrawn' | 'standsOn' | 'version'> & {
  readonly plain: PlainInstrument;
  next(draw: Draw, month: OpenMonth): { readonly move: AnyMove; readonly keep: () => void } | undefined;
};

/**
 * Plays random months in a company's books: what is taken on, recorded, taken back, changed, settled, renewed,
 * redeemed and withdrawn, and then locked; after each the ledger and the reports are held against the model.
 */
export class RandomPlay {
  readonly played: AnyPlayed[] = [];
  private readonly draw: Draw;
  /** What closed months showed, by the address it was read from. */
  private readonly seen = new Map<string, string>();

  constructor(
    private readonly server: TestServer,
    private readonly preparer: Caller,
    private readonly booksFrom: number,
    private readonly seed: number,
    private readonly most = 20,
  ) {
    this.draw = drawn(seed);
  }

  /** @param at months from the first day of the books */
  async month(at: number): Promise<void> {
    const opens = monthsOn(this.booksFrom, at);
    const month = { opens, ends: monthsOn(this.booksFrom, at + 1) - 1 };
    for (let more = this.draw(4); more >= 0 && this.played.length < this.most; more -= 1)
      await this.takeOn(month);
    for (const one of this.played) if (!one.withdrawn) await this.befall(one, month);
    await this.lock(month);
    await this.compare(month.ends);
    await this.differences(month);
    await this.look(month);
    expect(await this.server.disagreements(), this.said()).toEqual([]);
  }

  private said(about = ''): string {
    return `${about} seed ${this.seed}`;
  }

  private async takeOn(month: OpenMonth): Promise<void> {
    const name = `Instrument ${100 + this.played.length}`;
    switch (this.draw(5)) {
      case 0:
        return this.keep(lines, lines.begin(this.draw, name, month, this.booksFrom));
      case 1:
        return this.keep(bonds, bonds.begin(this.draw, name, month, this.booksFrom));
      default:
        return this.keep(loans, loans.begin(this.draw, name, month, this.booksFrom));
    }
  }

  private async keep<Of extends PlainInstrument>(player: Player<Of>, plain: Of): Promise<void> {
    const sent = { document: plain.document() };
    const { status, text, body } = await this.preparer.insist('POST', '/api/instruments', sent);
    expect(status, text).toBe(200);
    this.played.push(new Played(player, body.id, plain));
  }

  private async befall(one: AnyPlayed, month: OpenMonth): Promise<void> {
    if (this.draw(30) === 0) return this.withdraw(one);
    const next = one.next(this.draw, month);
    if (!next) return;
    const { move, keep } = next;
    const about = this.said(`${JSON.stringify(one.plain)} ${JSON.stringify(move)}`);
    const { status, text } = await this.sent(one, move);
    if (status === 422 && move.mayMeet !== undefined && text.includes(move.mayMeet)) return;
    expect(status, `${text} ${about}`).toBe(200);
    keep();
  }

  private sent({ id, version }: AnyPlayed, move: AnyMove): ReturnType<Caller['insist']> {
    switch (move.does) {
      case 'pay':
        return this.preparer.insist('POST', '/api/payments', {
          payments: [recorded(id, version, move)],
        });
      case 'take-back': {
        const { due } = move.payment;
        const payments = [{ instrumentId: id, version, due: textOf(due) }];
        return this.preparer.insist('POST', '/api/payments/taken-back', { payments, reason: 'By mistake' });
      }
      case 'put': {
        const sent = { version, document: move.to.document(), reason: 'The agreement says otherwise' };
        return this.preparer.insist('PUT', `/api/instruments/${id}`, sent);
      }
    }
  }

  private async withdraw(one: AnyPlayed): Promise<void> {
    const sent = { version: one.version, reason: 'Taken on by mistake' };
    const { status, text } = await this.preparer.call('POST', `/api/instruments/${one.id}/withdrawal`, sent);
    expect(status, text).toBe(200);
    one.withdrawn = true;
  }

  private async lock({ ends }: OpenMonth): Promise<void> {
    const end = textOf(ends);
    const accruals = this.draw(2) === 0 ? 'reversed' : 'standing';
    await this.preparer.call('PUT', `/api/periods/${end}/accruals`, { accruals });
    const { status, text } = await this.preparer.insist('POST', `/api/periods/${end}/lock`, {});
    expect(status, this.said(text)).toBe(200);
  }

  /** What a closed month shows stays as it was seen first. */
  private async look({ opens, ends }: OpenMonth): Promise<void> {
    const end = textOf(ends);
    for (const path of [
      `/api/periods/${end}/close`,
      `/api/periods/${end}/differences`,
      `/api/journal.csv?from=${textOf(opens)}&to=${end}`,
      `/api/register?on=${end}`,
    ]) {
      this.seen.set(path, (await this.preparer.call('GET', path)).text);
    }
    for (const [path, before] of this.seen) {
      expect((await this.preparer.call('GET', path)).text, this.said(path)).toBe(before);
    }
  }

  /** What a locked month tells of each figure's change is what it reported less what the month before did, none left out. */
  private async differences({ opens, ends }: OpenMonth): Promise<void> {
    const { body } = await this.preparer.call('GET', `/api/periods/${textOf(ends)}/differences`);
    const [now, before] = [await this.reported(textOf(ends)), await this.reported(textOf(opens - 1))];
    for (const figure of ['accrued', 'expense', 'carrying', 'current'] as const) {
      const told = { now: 0, change: 0, parts: 0 };
      for (const { [figure]: one } of body.lines) {
        told.now += one.now;
        told.change += one.change;
        for (const { amount } of one.parts) told.parts += amount;
      }
      const change = now[figure] - before[figure];
      expect(told, this.said(`${figure} at ${textOf(ends)}`)).toEqual({
        now: now[figure],
        change,
        parts: change,
      });
    }
  }

  /** Sums of what a locked month reported, and its expense in the ledger. */
  private async reported(
    end: string,
  ): Promise<Record<'accrued' | 'expense' | 'carrying' | 'current', number>> {
    const { rows } = await this.server.database.raw<{ rows: Record<string, string | null>[] }>(
      `select sum(accrued_interest + accrued_fee + unpaid_interest) as accrued, sum(carrying) as carrying,
         sum(current) as current, (select sum(debit - credit) from entry_line join entry using (company_id, number)
           where entry.company_id = 1 and period_end = :end and role = 'interest-expense') as expense
       from reported_position where company_id = 1 and period_end = :end`,
      { end },
    );
    const of = (key: string): number => Number(rows[0]?.[key] ?? 0);
    return {
      accrued: of('accrued'),
      expense: of('expense'),
      carrying: of('carrying'),
      current: of('current'),
    };
  }

  /** The ledger and the report of a locked month against the model. */
  private async compare(day: number): Promise<void> {
    const end = textOf(day);
    const { body: register } = await this.preparer.call('GET', `/api/register?on=${end}`);
    const held = await this.ledger(end);
    for (const one of this.played) {
      const is = one.standsOn(day);
      const before = one.standsOn(this.booksFrom - 1);
      const row = register.rows.find(({ id }: { id: string }) => id === one.id);
      const figures = row?.figures ?? {};
      const about = this.said(`${JSON.stringify(one.plain)} at ${end}`);
      const figure = (key: string): number => figures[key] ?? 0;
      expect(
        {
          outstanding: figure('outstanding'),
          accrued: figure('accruedInterest'),
          unpaid: figure('unpaidInterest'),
          fee: figure('accruedFee'),
          overpaid: figure('overpaid'),
          discount: figure('unamortizedDiscount') - figure('unamortizedPremium'),
        },
        about,
      ).toEqual({
        outstanding: is.outstanding,
        accrued: is.accrued,
        unpaid: is.unpaid,
        fee: is.fee,
        overpaid: is.overpaid,
        discount: is.discount,
      });
      const of = (...roles: string[]): number =>
        roles.reduce((sum, role) => sum + (held.get(`${one.id} ${role}`) ?? 0), 0);
      expect(
        {
          outstanding: 0 - of('loan-payable', 'bonds-payable', 'current-portion'),
          owed: 0 - of('interest-payable'),
          overpaid: of('overpayment'),
          discount: of('bond-discount', 'bond-premium'),
          cash: of('cash'),
          expense: of('interest-expense', 'fees'),
          loss: of('redemption-gain-loss'),
        },
        about,
      ).toEqual({
        outstanding: is.outstanding,
        owed: is.accrued + is.unpaid + is.fee,
        overpaid: is.overpaid,
        discount: is.discount,
        cash: is.cash - before.cash,
        expense: is.expense - before.expense,
        loss: is.loss - before.loss,
      });
    }
  }

  /** What the ledger holds, debits positive, by instrument and account role. */
  private async ledger(end: string): Promise<Map<string, number>> {
    const { database } = this.server;
    const sums = await database('entry')
      .join('entry_line', (on) => {
        on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
      })
      .where('period_end', '<=', end)
      .groupBy('instrument_id', 'role')
      .select<{ instrument_id: string; role: string; sum: string }[]>(
        'instrument_id',
        'role',
        database.raw('sum(debit - credit) as sum'),
      );
    return new Map(sums.map((row) => [`${row.instrument_id} ${row.role}`, Number(row.sum)]));
  }
}

function recorded(instrumentId: string, version: number, move: Extract<AnyMove, { does: 'pay' }>): object {
  const { due, on, amount } = move.payment;
  const payment = { instrumentId, version, due: textOf(due), on: textOf(on), amount: money(amount) };
  return move.as ? { ...payment, [move.as]: true } : payment;
}
