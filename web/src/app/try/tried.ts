import type { LoanOutcome } from '@coffer/core';
import type { Fault, InstrumentChange, LoanDocument, TermsChange } from '@coffer/contract';

/** A day and the balance owed after it, minor units. */
export interface CurvePoint {
  readonly on: number;
  readonly balance: number;
}

/** What a change comes to, or why it cannot be. */
export type Tried =
  | { readonly ok: true; readonly outcome: LoanOutcome; readonly curve: readonly CurvePoint[] }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Terms that can be varied over a range. */
export const variedTerms = ['annual', 'amount', 'payments', 'payment', 'extraEach'] as const;
export type VariedTerm = (typeof variedTerms)[number];

/** One side of a grid: a term and its values, as the change states them. */
export interface Axis {
  readonly term: VariedTerm;
  readonly values: readonly string[];
}

/** What is asked of the worker: changes to a loan, or a grid of changes on top of one. */
export type TryQuestion = { readonly number: number; readonly document: LoanDocument } & (
  | { readonly kind: 'changes'; readonly changes: readonly InstrumentChange[] }
  | ({ readonly kind: 'grid' } & GridQuestion)
);

/** A grid of changes on top of one; where another is given, each cell is the difference of the two. */
export interface GridQuestion {
  readonly change: TermsChange;
  readonly against?: TermsChange | undefined;
  readonly across: Axis;
  readonly down: Axis;
}

/** A cell of a grid: what its change comes to, or the fault that keeps it from being. */
export type TriedCell = LoanOutcome | string;

/** What the worker answers: all changes at once, a grid row by row. */
export type TryAnswer = { readonly number: number } & (
  | { readonly kind: 'changes'; readonly tried: readonly Tried[] }
  | {
      readonly kind: 'row';
      readonly at: number;
      readonly cells: readonly TriedCell[];
      readonly last: boolean;
    }
);
