import { PlainLine } from '../plain/plain-line.ts';
import { monthsOn } from '../plain/plain-stand.ts';
import { oneOf, type Draw } from './drawn.ts';
import type { Move, OpenMonth, Player } from './moves.ts';

// What is paid less leaves more drawn, so that a later draw may go beyond the limit.
const limited = 'above the limit';

function begin(draw: Draw, name: string, { opens }: OpenMonth, booksFrom: number): PlainLine {
  const older = draw(4) === 0;
  const start = older ? booksFrom - 1 - draw(200) : Math.max(booksFrom, opens + draw(60) - 40);
  // A first bill on a month's last day would keep to month ends.
  const bills = Array.from({ length: 30 }, (_, at) =>
    Math.min(monthsOn(start, at + 1), monthsOn(start - 1, at + 1)),
  );
  const limit = 10_000_000 + draw(90_000_000);
  const moves = [{ on: start + draw(20), amount: Math.ceil(limit / (2 + draw(8))) }];
  return new PlainLine({
    name,
    limit,
    start,
    bills,
    rate: 1 + draw(1200),
    unusedFee: draw(100),
    moves,
    paid: [],
  });
}

/** Drawn within the limit, or repaid, in the open month or before it. */
function moveMoney(draw: Draw, line: PlainLine, { opens, ends }: OpenMonth): Move<PlainLine> | undefined {
  const { start, limit, moves } = line.terms;
  const on = opens - 40 + draw(ends - opens + 41);
  if (on < start || moves.some((move) => move.on === on)) return undefined;
  const most = Math.max(...Array.from({ length: 150 }, (_, at) => line.standsOn(on + at).outstanding));
  const amount =
    draw(2) === 0 ? Math.ceil((limit - most) / (1 + draw(4))) : -Math.ceil(limit / (1 + draw(20)));
  if (amount === 0 || line.standsOn(on).overpaid > 0) return undefined;
  return { does: 'put', to: line.with({ moves: [...moves, { on, amount }] }), mayMeet: limited };
}

/** A bill near the open month: its interest and fee or another amount, on its day or late, or not at all. */
function pay(draw: Draw, line: PlainLine, { opens, ends }: OpenMonth): Move<PlainLine> | undefined {
  const { bills, paid, limit } = line.terms;
  const due = oneOf(
    draw,
    bills.filter((bill) => bill > opens - 62 && bill <= ends),
  );
  if (due === undefined || paid.some((payment) => payment.due === due)) return undefined;
  const on = due + (draw(2) === 0 ? 0 : draw(28));
  const made = {
    due,
    on,
    amount: oneOf(draw, [0, 1000 + draw(20_000), 100_000, Math.ceil(limit / 30)]) as number,
  };
  const to = line.with({ paid: [...paid, made] });
  return { does: 'pay', payment: made, to, mayMeet: limited };
}

/** Credit lines: drawn, repaid, billed, and at another rate. */
export const lines: Player<PlainLine> = {
  begin,
  move(draw, line, month) {
    switch (draw(5)) {
      case 0:
      case 1:
        return moveMoney(draw, line, month);
      case 2:
        return pay(draw, line, month);
      case 3:
        return { does: 'put', to: line.with({ rate: 1 + draw(1200) }), mayMeet: limited };
      default: {
        const payment = oneOf(draw, line.terms.paid);
        if (!payment) return undefined;
        const paid = line.terms.paid.filter((other) => other !== payment);
        return { does: 'take-back', payment, to: line.with({ paid }), mayMeet: limited };
      }
    }
  },
};
