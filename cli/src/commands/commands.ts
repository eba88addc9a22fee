import type { Command } from '../command.ts';
import { UsageFault } from '../usage-fault.ts';
import { entries } from './entries.ts';
import { position } from './position.ts';
import { schedule } from './schedule.ts';

/** Every question that can be asked of a document. */
export const commands: readonly Command[] = [schedule, position, entries];

/** The command of a name. Throws {@link UsageFault} where there is none. */
export function commandOf(name: string): Command {
  const command = commands.find((each) => each.name === name);
  if (command) return command;
  const names = commands.map((each) => each.name).join(', ');
  throw new UsageFault(`There is no command ${name}; there are ${names}.`);
}
