/** A command that was called wrongly: what is wrong and how to call it. */
export class UsageFault extends Error {}
