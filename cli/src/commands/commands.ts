import type { Command } from '../command.ts';
import { UsageFault } from '../usage-fault.ts';
import type { DocumentCommand } from './document-command.ts';
import { entries } from './entries.ts';
import { plan } from './plan.ts';
import { portfolio } from './portfolio.ts';
import { position } from './position.ts';
import { schedule } from './schedule.ts';

/** Every question that can be asked of one document. */
const documentCommands: readonly DocumentCommand[] = [schedule, position, entries];

/** Every question that can be asked on the command line. */
export const commands: readonly Command[] = [...documentCommands, portfolio, plan];

/** The command of a name. Throws {@link UsageFault} where there is none. */
export function commandOf(name: string): Command {
  return named(commands, name);
}

/** The same among those that are asked of one document. */
export function documentCommandOf(name: string): DocumentCommand {
  return named(documentCommands, name);
}

function named<Each extends Command>(among: readonly Each[], name: string): Each {
  const command = among.find((each) => each.name === name);
  if (command) return command;
  const names = among.map((each) => each.name).join(', ');
  throw new UsageFault(`There is no command ${name}; there are ${names}.`);
}
