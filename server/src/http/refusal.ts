import type { ConfirmCode, Fault, Question } from '@coffer/contract';

/** A call that is refused: the answer says why, where, and what to do. */
export class Refusal extends Error {
  /**
   * @param status HTTP status
   * @param code a word that programs can rely on
   * @param message for people, in whole sentences
   * @param faults each field at fault
   * @param questions what is to be confirmed before the call is repeated
   * @param retryAfter seconds after which the same call may be made again
   */
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly faults?: readonly Fault[],
    readonly questions?: readonly Question[],
    readonly retryAfter?: number,
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

/** More comes at once than is worked on: refused without having been begun. */
export function tooBusy(message: string): Refusal {
  return new Refusal(429, 'busy', message, undefined, undefined, 2);
}

/** Asks about what was not confirmed yet. Throws {@link Refusal} 409 with every question. */
export function askFirst(questions: readonly Question[], confirmed: readonly ConfirmCode[]): void {
  const open = questions.filter(({ code }) => !confirmed.includes(code));
  if (open.length === 0) return;
  const message = `Nothing was done yet. ${open.map((one) => one.message).join(' ')}`;
  throw new Refusal(409, 'to-confirm', message, undefined, open);
}
