/**
 * What interest was worked out over, added up over stretches of days: by it two spans are held against each other. Sums
 * are doubles; they tell why interest differs, the interest itself is exact elsewhere.
 */
export interface InterestBasis {
  /** Days as the day count counts them. */
  readonly days: number;
  /** Shares of a year. */
  readonly years: number;
  /** Balance in minor units times the share of a year that it stood. */
  readonly balanceYears: number;
  /** Annual rate times the share of a year that it held. */
  readonly rateYears: number;
  /** Interest before it is rounded, minor units. */
  readonly interest: number;
  /** The most that rounding can have made of it, minor units. */
  readonly rounding: number;
}

/** Nothing that interest could be worked out over. */
export const noBasis: InterestBasis = {
  days: 0,
  years: 0,
  balanceYears: 0,
  rateYears: 0,
  interest: 0,
  rounding: 0,
};

/** A basis over two stretches; taken away where `sign` is -1, where rounding still adds up. */
export function addBasis(one: InterestBasis, other: InterestBasis, sign: 1 | -1 = 1): InterestBasis {
  return {
    days: one.days + sign * other.days,
    years: one.years + sign * other.years,
    balanceYears: one.balanceYears + sign * other.balanceYears,
    rateYears: one.rateYears + sign * other.rateYears,
    interest: one.interest + sign * other.interest,
    rounding: one.rounding + other.rounding,
  };
}

/** What interest was worked out over on the whole. */
export interface Averages {
  /** Minor units. */
  readonly balance: number;
  /** As a share: 0.0425 for 4.25 %. */
  readonly rate: number;
  readonly days: number;
}

/** Balance and rate on the whole of a basis: weighed by the share of a year that they held. */
export function averagesOf({ years, balanceYears, rateYears, days }: InterestBasis): Averages {
  const over = Math.abs(years) < least ? 1 : years;
  return { balance: balanceYears / over, rate: rateYears / over, days };
}

/** Why the interest of one basis is another than that of the one before, unrounded, minor units. */
export interface InterestReasons {
  readonly rate: number;
  readonly balance: number;
  readonly days: number;
}

/** A share of a year that is none. */
const least = 1e-9;
/** Rates this near are the same: what differs between them is how sums of doubles end. */
const sameRate = 1e-10;

/**
 * Splits the change of interest: the new rate on the balance and the days before, then the new balance at the new rate
 * on the days before, then the days (price before quantity, common practice of variance analysis). Where the annual
 * rate is the same, what compounding makes of more or fewer days belongs to the days. The three sum to the change.
 */
export function reasonsOf(before: InterestBasis, now: InterestBasis): InterestReasons {
  const change = now.interest - before.interest;
  if (Math.abs(before.years) < least || Math.abs(now.years) < least) {
    return { rate: 0, balance: 0, days: change };
  }
  const effective = ({ interest, balanceYears, rateYears, years }: InterestBasis): number =>
    Math.abs(balanceYears) < least ? rateYears / years : interest / balanceYears;
  const [was, is] = [averagesOf(before), averagesOf(now)];
  const same = Math.abs(is.rate - was.rate) < sameRate;
  const [rateBefore, rateNow] = [effective(before), effective(now)];
  const rate = same ? 0 : (rateNow - rateBefore) * before.balanceYears;
  const balance = (same ? rateBefore : rateNow) * (is.balance - was.balance) * before.years;
  return { rate, balance, days: change - rate - balance };
}
