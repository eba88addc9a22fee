/**
 * The first whole number after `low` and through `high` for which something holds, that holds from there on; that it
 * holds at `high` is taken for granted.
 *
 * @example
 * firstWhere(-1, 100, (n) => n * n >= 50) // 8
 */
export function firstWhere(low: number, high: number, holds: (at: number) => boolean): number {
  let [before, found] = [low, high];
  while (found - before > 1) {
    const middle = Math.floor((before + found) / 2);
    if (holds(middle)) found = middle;
    else before = middle;
  }
  return found;
}
