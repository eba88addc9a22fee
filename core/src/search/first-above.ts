/**
 * The place of the first of so many rising numbers that is above one; how many there are where none is. Asked so often
 * that it calls no function for it.
 *
 * @example
 * firstAbove(Int32Array.of(10, 20, 20, 30), 4, 20) // 3
 */
export function firstAbove(rising: Int32Array, count: number, value: number): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((rising[middle] as number) <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}
