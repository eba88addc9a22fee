import { PlainLoan } from '../plain/plain-loan.ts';
import { monthsOn, type PlainStand } from '../plain/plain-stand.ts';
import { oneOf, type Draw } from './drawn.ts';
import type { Move, OpenMonth, Player } from './moves.ts';

const owed = ({ outstanding, unpaid }: PlainStand): number => outstanding + unpaid;

function begin(draw: Draw, name: string, { opens }: OpenMonth, booksFrom: number): PlainLoan {
  const older = draw(4) === 0;
  const start = older ? booksFrom - 1 - draw(300) : Math.max(booksFrom, opens + draw(80) - 50);
  const count = (older ? 8 : 2) + draw(11);
  const dues = Array.from({ length: count }, (_, at) => monthsOn(start, at + 1));
  const amount = 100_000 + draw(9_000_000);
  const rate = 1 + draw(1500);
  const payment = Math.ceil(amount / count + (amount * rate) / 120_000);
  return new PlainLoan({ name, amount, rate, start, dues, payment, paid: [], extras: [] });
}

/** A payment due near the open month: as agreed, short, over or missed, early, on its day, late, or in parts. */
function pay(draw: Draw, loan: PlainLoan, { opens, ends }: OpenMonth): Move<PlainLoan> | undefined {
  const { paid, settledOn, start } = loan.terms;
  if (settledOn !== undefined) return undefined;
  const due = oneOf(
    draw,
    loan.dues.filter((each) => each > opens - 62 && each <= ends + 31),
  );
  if (due === undefined) return undefined;
  const shift = [0, 0, draw(40), draw(40), -draw(25)][draw(5)] as number;
  const on = due + shift;
  if (on <= start || on > ends + 40) return undefined;
  const parts = paid.filter((other) => other.due === due);
  const as = parts.length === 0 ? undefined : draw(2) === 0 ? 'adds' : 'corrects';
  const kept = as === 'corrects' ? paid.filter((other) => other.due !== due) : paid;
  if (parts.length > 1 || kept.some((other) => other.on === on)) return undefined;
  const { payment } = loan.terms;
  const amounts = [0, Math.round(payment / 3), payment, payment, 3 * payment, 20 * payment];
  const amount = oneOf(draw, amounts) as number;
  const made = { due, on, amount };
  const repaid = owed(loan.standsOn(Math.min(due, on) - 1)) === 0 || owed(loan.standsOn(due)) === 0;
  return {
    does: 'pay',
    payment: made,
    ...(as && { as }),
    to: loan.with({ paid: [...kept, made] }),
    ...(repaid && { mayMeet: 'No payment falls due' }),
  };
}

/** Extra principal in the open month or before it. */
function repay(draw: Draw, loan: PlainLoan, { opens, ends }: OpenMonth): Move<PlainLoan> | undefined {
  const { start, extras, settledOn, amount } = loan.terms;
  const on = opens - 40 + draw(ends - opens + 41);
  if (on <= start || settledOn !== undefined || extras.some((extra) => extra.on === on)) return undefined;
  const extra = { on, amount: Math.ceil(amount / (1 + draw(12))) };
  return { does: 'put', to: loan.with({ extras: [...extras, extra] }) };
}

/** All that is owed paid on a day of the open month. */
function settle(draw: Draw, loan: PlainLoan, { opens, ends }: OpenMonth): Move<PlainLoan> | undefined {
  const { start, settledOn, paid, extras, renewal } = loan.terms;
  const on = opens + draw(ends - opens + 1);
  const later = [...paid, ...extras].some((event) => event.on >= on) || (renewal && renewal.on >= on);
  const due = paid.some((payment) => payment.due >= on);
  if (on <= start || settledOn !== undefined || later || due || owed(loan.standsOn(on - 1)) === 0)
    return undefined;
  return { does: 'put', to: loan.with({ settledOn: on }) };
}

/** Another rate, payment and term from a due date on. */
function renew(draw: Draw, loan: PlainLoan, { opens, ends }: OpenMonth): Move<PlainLoan> | undefined {
  const { settledOn, paid, extras, renewal, dues } = loan.terms;
  const on = oneOf(
    draw,
    dues.slice(0, -1).filter((due) => due >= opens - 31 && due <= ends),
  );
  if (
    on === undefined ||
    renewal ||
    settledOn !== undefined ||
    [...paid, ...extras].some((event) => event.on >= on)
  )
    return undefined;
  const known = loan.standsOn(on);
  if (paid.some(({ due }) => due > on) || known.outstanding === 0) return undefined;
  const count = 2 + draw(8);
  const rate = 1 + draw(1500);
  const payment = Math.ceil(known.outstanding / count + (known.outstanding * rate) / 120_000);
  const anew = Array.from({ length: count }, (_, at) => monthsOn(on, at + 1));
  return { does: 'put', to: loan.with({ renewal: { on, rate, payment, dues: anew } }) };
}

/** An agreement of which nothing is recorded moved by whole months, back or on, past the open month too. */
function shift(draw: Draw, loan: PlainLoan): Move<PlainLoan> | undefined {
  const { paid, extras, settledOn, renewal, start, dues } = loan.terms;
  if (paid.length + extras.length > 0 || settledOn !== undefined || renewal) return undefined;
  const by = draw(8) - 3;
  return {
    does: 'put',
    to: loan.with({ start: monthsOn(start, by), dues: dues.map((due) => monthsOn(due, by)) }),
  };
}

function takeBack(draw: Draw, loan: PlainLoan): Move<PlainLoan> | undefined {
  const { paid, renewal, settledOn } = loan.terms;
  const payment = oneOf(draw, paid);
  if (!payment || renewal || settledOn !== undefined) return undefined;
  if (paid.filter(({ due }) => due === payment.due).length > 1) return undefined;
  return { does: 'take-back', payment, to: loan.with({ paid: paid.filter((other) => other !== payment) }) };
}

/** Level loans: paid in every way, repaid ahead, settled, renewed, moved, at another rate. */
export const loans: Player<PlainLoan> = {
  begin,
  move(draw, loan, month) {
    switch (draw(9)) {
      case 0:
      case 1:
      case 2:
        return pay(draw, loan, month);
      case 3:
        return { does: 'put', to: loan.with({ rate: 1 + draw(1500) }) };
      case 4:
        return takeBack(draw, loan);
      case 5:
        return repay(draw, loan, month);
      case 6:
        return draw(3) === 0 ? settle(draw, loan, month) : undefined;
      case 7:
        return renew(draw, loan, month);
      default:
        return shift(draw, loan);
    }
  },
};
