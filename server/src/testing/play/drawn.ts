/** Draws a whole number from 0 to below a bound. */
export type Draw = (below: number) => number;

/** Numbers that look random and come again with their seed (mulberry32, public domain). */
export function drawn(from: number): Draw {
  let state = from;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

/** One of several. */
export function oneOf<T>(draw: Draw, among: readonly T[]): T | undefined {
  return among[draw(Math.max(1, among.length))];
}
