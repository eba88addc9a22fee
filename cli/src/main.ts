import { DocumentFault, entriesCommand, positionCommand, scheduleCommand } from './commands.ts';
import { UsageFault } from './usage-fault.ts';

const commands: Readonly<Record<string, (args: string[]) => string>> = {
  schedule: scheduleCommand,
  position: positionCommand,
  entries: entriesCommand,
};

/** Runs one command; faults go to standard error and end with 2, so that nothing half right is piped on. */
function main([name = '', ...args]: string[]): void {
  const command = commands[name];
  try {
    if (!command) throw new UsageFault(`There is no command ${name}.`);
    process.stdout.write(command(args));
  } catch (error) {
    process.exitCode = 2;
    if (error instanceof DocumentFault) {
      for (const { key, message } of error.faults) console.error(key ? `${key}: ${message}` : message);
    } else if (error instanceof UsageFault || isParseArgsError(error)) {
      console.error(`${error.message}\nSee ./coffer help.`);
    } else {
      throw error;
    }
  }
}

function isParseArgsError(error: unknown): error is Error {
  return error instanceof Error && String((error as NodeJS.ErrnoException).code).startsWith('ERR_PARSE_ARGS');
}

// A reader that stops early (head) closes the pipe; that is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
});
main(process.argv.slice(2));
