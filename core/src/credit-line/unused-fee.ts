import { addRatios, multiplyRatios, ratio, type Ratio } from '../money/ratio.ts';
import type { InterestSegment } from '../loan/interest/interest-segment.ts';

/**
 * The fee on what is not drawn of a credit line, by the days of the same segments that interest is worked out from,
 * unrounded, minor units.
 */
export function unusedFeeOf(limit: number, annualFee: Ratio, segments: readonly InterestSegment[]): Ratio {
  return segments.reduce((sum, { balance, years }) => {
    const unused = addRatios(ratio(BigInt(limit)), { num: -balance.num, den: balance.den });
    const share = ratio(BigInt(years.num), BigInt(years.den));
    return addRatios(sum, multiplyRatios(multiplyRatios(unused, annualFee), share));
  }, ratio(0n));
}
