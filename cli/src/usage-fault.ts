/** A command that was called wrongly: what is wrong and how to call it. */
export class UsageFault extends Error {}

/** Whether something is wrong with how a command was called, rather than with the program. */
export function isCallFault(error: unknown): error is Error {
  return (
    error instanceof UsageFault ||
    (error instanceof Error && String((error as NodeJS.ErrnoException).code).startsWith('ERR_PARSE_ARGS'))
  );
}
