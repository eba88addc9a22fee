import { formatDay } from '../../calendar/calendar-day.ts';
import { formatAmount } from '../../money/amount-text.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { BondTerms, EarlyRedemption } from './bond-terms.ts';
import type { CouponPeriod } from './coupon-periods.ts';

/** Throws {@link TermsFault} for terms that contradict each other and are not found out while scheduling. */
export function checkBondTerms(terms: BondTerms): void {
  const { dated, issued, matures } = terms;
  if (dated > issued) {
    throw new TermsFault(
      'dated',
      `Interest would run from ${formatDay(dated)}, after the issue on ${formatDay(issued)}; give the issue date or a ` +
        'day before it.',
    );
  }
  if (matures <= issued) {
    throw new TermsFault(
      'matures',
      `The bond matures on ${formatDay(matures)}, which is not after its issue on ${formatDay(issued)}.`,
    );
  }
  if (terms.method === 'straight-line' && terms.issueCosts?.method === 'effective') {
    throw new TermsFault(
      'issueCosts.method',
      'Issue costs can be amortized in the effective rate only where the bond is; make both straight-line.',
    );
  }
  for (const { on, at } of terms.redemptions) {
    if (on <= issued || on >= matures) {
      throw new TermsFault(
        `redemptions.${at}.on`,
        `A redemption before maturity falls after the issue on ${formatDay(issued)} and before ` +
          `${formatDay(matures)}; found ${formatDay(on)}.`,
      );
    }
  }
}

/** Throws {@link TermsFault} for instalments off the coupon dates or that do not fit the face. */
export function checkInstalments(terms: BondTerms, periods: readonly CouponPeriod[]): void {
  const { instalments, face, matures } = terms;
  if (instalments.length === 0) return;
  let left = face;
  instalments.forEach(({ on, face: part, at }) => {
    const key = `redemptions.${at}`;
    if (on <= terms.issued || !periods.some(({ to }) => to === on)) {
      const after = periods.find(({ to }) => to >= Math.max(on, terms.issued + 1)) ?? periods.at(-1);
      throw new TermsFault(
        `${key}.on`,
        `An instalment falls due on a coupon date after the issue; ${formatDay(on)} is none. The next is ` +
          `${formatDay(after?.to ?? matures)}. A redemption on any other day states its price.`,
      );
    }
    left -= part;
    if (left < 0 || (left === 0 && on < matures)) {
      throw new TermsFault(
        `${key}.face`,
        `With ${money(terms, part)} on ${formatDay(on)} the instalments come to ${money(terms, face - left)} of a face ` +
          `of ${money(terms, face)}; some of it must be left to fall due at maturity.`,
      );
    }
    if (on === matures && left > 0) {
      throw new TermsFault(
        `${key}.face`,
        `The instalments come to ${money(terms, face - left)}, ${money(terms, left)} short of the face; leave the one ` +
          'at maturity out, or make it the rest.',
      );
    }
  });
}

/** Throws {@link TermsFault} where more face is redeemed than is outstanding. */
export function refuseAboveOutstanding(
  terms: BondTerms,
  { on, face, at }: EarlyRedemption,
  outstanding: bigint,
): void {
  if (BigInt(face) <= outstanding) return;
  throw new TermsFault(
    `redemptions.${at}.face`,
    `On ${formatDay(on)} ${money(terms, Number(outstanding))} of face is outstanding, so ${money(terms, face)} cannot ` +
      'be redeemed.',
  );
}

function money(terms: BondTerms, minor: number): string {
  return formatAmount(minor, terms.digits);
}
