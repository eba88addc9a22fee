/** Steps to a root at most; halving alone comes to neighbouring doubles in some sixty. */
const mostSteps = 200;

/** The least that a step moves by, as a share of the root: a smaller one is the last. */
const smallestStep = 1e-15;

/** A function's value at a place, and what it moves by with it. */
export interface ValueAndSlope {
  readonly value: number;
  readonly slope: number;
}

/** Where a falling function is looked at: between two places, from one between them on. */
export interface Bracket {
  readonly lowest: number;
  readonly highest: number;
  readonly start: number;
}

/**
 * Where a falling function comes to a value, in doubles, and its slope there; `undefined` where it does not between the
 * ends. The function falls, so the bracket always holds the one root; where a step of Newton's method would leave it, or
 * is not half as long as the one before, the bracket is halved.
 *
 * @example
 * fallingRoot((x) => ({ value: 9 - x * x, slope: -2 * x }), 5, { lowest: 0, highest: 10, start: 1 })
 * // { root: 2, slope: -4 }
 */
export function fallingRoot(
  at: (place: number) => ValueAndSlope,
  sought: number,
  { lowest, highest, start }: Bracket,
): { readonly root: number; readonly slope: number } | undefined {
  if (!(at(lowest).value > sought && at(highest).value < sought)) return undefined;
  let [low, high, root] = [lowest, highest, start];
  let moved = highest - lowest;
  let { value, slope } = at(root);
  for (let step = 0; step < mostSteps; step += 1) {
    if (value > sought) low = root;
    else high = root;
    let next = root - (value - sought) / slope;
    const slow = Math.abs(next - root) > moved / 2;
    if (slow || !(next >= low && next <= high)) next = (low + high) / 2;
    moved = Math.abs(next - root);
    root = next;
    ({ value, slope } = at(root));
    if (moved <= smallestStep * Math.max(1, Math.abs(root))) break;
  }
  return { root, slope };
}
