import type { Fault } from '@coffer/contract';

/** A call that is refused: the answer says why, where, and what to do. */
export class Refusal extends Error {
  /**
   * @param status HTTP status
   * @param code a word that programs can rely on
   * @param message for people, in whole sentences
   * @param faults each field at fault
   */
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly faults?: readonly Fault[],
  ) {
    super(message);
  }
}

/** What was sent does not fit; each field says why. */
export function faultyInput(
  faults: readonly Fault[],
  message = 'Some of what was sent cannot be used.',
): Refusal {
  return new Refusal(422, 'faulty-input', message, faults);
}
