import { showDecimal, showRate } from './show.ts';

/** By how much an amount rises each year, in words: `, rising by 3% each year`; empty where it stays. */
export function riseWords(rises: string | undefined): string {
  if (rises === undefined) return '';
  return `, rising by ${rises.endsWith('%') ? showRate(rises) : showDecimal(rises)} each year`;
}
