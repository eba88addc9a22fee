import type { Explanation } from '../explain/explanation.ts';

/** What the amounts of an explanation come to: those that begin with a minus are taken away. */
export const sumOf = ({ steps }: Explanation): number =>
  steps.reduce((sum, { label, amount = 0 }) => sum + (label.startsWith('−') ? -amount : amount), 0);
