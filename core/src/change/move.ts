import type { MinorUnits } from '../units/units.ts';

/** What happens to a debt within a month, in the order in which it is told. */
export const moveReasons = [
  'renewed',
  'drawn',
  'repaid',
  'paid-late',
  'missed',
  'paid-early',
  'added',
  'paid',
] as const;
export type MoveReason = (typeof moveReasons)[number];

/** Something that happened, and what it did to the balance. */
export interface Move {
  readonly reason: MoveReason;
  /** What is owed goes up by it; minor units. */
  readonly amount: MinorUnits;
  /** Whether it was agreed before: a payment on its day and in full, interest that joins the balance by agreement. */
  readonly asAgreed: boolean;
}
