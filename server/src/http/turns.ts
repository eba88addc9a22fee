import pLimit, { type LimitFunction } from 'p-limit';
import { tooBusy } from './refusal.ts';

/**
 * How many calls of a sort are worked on at once in this process. The others wait without a connection to the database,
 * which has ten: whoever only looks at something always finds one.
 */
class Turns {
  private readonly limit: LimitFunction;

  /**
   * @param atOnce calls that are worked on at once
   * @param waiting calls that may wait for their turn
   * @param message what the next one is told
   */
  constructor(
    atOnce: number,
    private readonly waiting: number,
    private readonly message: string,
  ) {
    this.limit = pLimit(atOnce);
  }

  /** Acts once it is this call's turn. Throws {@link Refusal} 429 where too many wait. */
  take<Made>(act: () => Promise<Made>): Promise<Made> {
    if (this.limit.pendingCount >= this.waiting) return Promise.reject(tooBusy(this.message));
    return this.limit(act);
  }
}

const later = 'Nothing was done; try again in a few seconds.';

/** Calls that change something. */
export const changes = new Turns(4, 200, `Many changes are being made at this moment. ${later}`);

/** Calls whose work grows with all that a company has. */
export const longCalls = new Turns(3, 40, `Much is being worked out at this moment. ${later}`);

/**
 * Whoever proves who they are by a password, one after another, since that is made to take a processor and much memory:
 * strangers, and apart from them people who are logged in or whose browser was known before, so that no number of
 * strangers keeps those waiting.
 */
export const passwordTurns = {
  ofStrangers: new Turns(1, 24, `Many people are logging in at this moment. ${later}`),
  ofKnown: new Turns(1, 24, `Many people are logging in at this moment. ${later}`),
} as const;
