import type { Count, MinorUnits } from '../units/units.ts';

/** Where an input of a figure comes from: a figure in the schedule, or a key of the terms. */
export type FigureLink =
  | { readonly to: 'row'; readonly row: Count; readonly column: string }
  | { readonly to: 'terms'; readonly key: string };

/** One input or intermediate result: an amount in minor units, or words. */
export interface ExplainStep {
  readonly label: string;
  readonly amount?: MinorUnits;
  readonly text?: string;
  readonly link?: FigureLink;
}

/** How a figure is made. Replays the one step that made it, from the same inputs by the same functions. */
export interface Explanation {
  readonly title: string;
  /** The figure, minor units. */
  readonly amount: MinorUnits;
  readonly steps: readonly ExplainStep[];
  /** The value before rounding in currency units, where there was any rounding. */
  readonly unrounded?: string;
  readonly rounding?: string;
}
