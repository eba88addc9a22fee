import type { MinorUnits } from '../units/units.ts';

/** A statement that must be true of a schedule, checked by adding its figures another way. */
export interface Proof {
  readonly name: string;
  readonly holds: boolean;
  /** How far off it is, in minor units; zero when it holds exactly. */
  readonly difference: MinorUnits;
}

/** A proof that holds when nothing differs. */
export function exactProof(name: string, difference: MinorUnits): Proof {
  return { name, holds: difference === 0, difference };
}

/** Sum of a column. */
export function sumColumn(column: Float64Array, length: number): number {
  let sum = 0;
  for (let row = 0; row < length; row += 1) sum += column[row] as number;
  return sum;
}
