/** An amount grew beyond what can be kept exactly: terms that may be, and whose figures on a day cannot. */
export class BeyondExact extends RangeError {
  constructor(
    message = 'An amount grew beyond what can be kept exactly; check the amount, the rate and the term.',
  ) {
    super(message);
  }
}
