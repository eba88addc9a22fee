/** An exact share of a year in small whole numbers. */
export interface Fraction {
  readonly num: number;
  readonly den: number;
}
