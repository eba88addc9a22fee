import { answerBatch } from './batch.ts';
import { Given, type Answer } from './command.ts';
import { commandOf, commands } from './commands/commands.ts';
import { DocumentFault } from './documents.ts';
import { helpOf } from './help.ts';
import { isCallFault } from './usage-fault.ts';

/** Runs one command; faults go to standard error and end with 2, so that nothing half right is piped on. */
async function main([name = '', ...args]: string[]): Promise<void> {
  try {
    if (name === 'help') process.stdout.write(helpOf(commands));
    else if (name === 'batch')
      await answerBatch(Given.of({ options: [] }, args).file(name, '-'), process.stdout);
    else {
      const command = commandOf(name);
      const given = Given.of(command, args);
      process.stdout.write(textOf(command.run(given), given));
    }
  } catch (error) {
    process.exitCode = 2;
    if (error instanceof DocumentFault) {
      for (const { key, message } of error.faults) console.error(key ? `${key}: ${message}` : message);
    } else if (isCallFault(error)) {
      console.error(`${error.message}\nSee ./coffer help.`);
    } else {
      throw error;
    }
  }
}

function textOf({ json, csv, text }: Answer, given: Given): string {
  if (given.has('json')) return `${JSON.stringify(json, null, 2)}\n`;
  return given.has('csv') && csv ? csv() : text();
}

// A reader that stops early (head) closes the pipe; that is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit();
});
await main(process.argv.slice(2));
