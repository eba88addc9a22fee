/** Terms that contradict each other or cannot be scheduled, found while computing. */
export class TermsFault extends Error {
  /**
   * @param key the key of the instrument document at fault, such as `payments.phases.0.payment`
   * @param message what is wrong and what would be right, in a sentence
   */
  constructor(
    readonly key: string,
    message: string,
  ) {
    super(message);
    this.name = 'TermsFault';
  }
}
