/**
 * Steps that one instrument may take to work out: a step is a row looked at once. Two million come to less than half a
 * second on two cores of 2026.
 */
export const mostSteps = 2_000_000;
