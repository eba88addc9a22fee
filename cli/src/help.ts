import type { Command, Option } from './command.ts';

const width = 118;

function shown({ name, takes, needed }: Option): string {
  const option = takes === undefined ? `--${name}` : `--${name} ${takes}`;
  return needed ? option : `[${option}]`;
}

/** How each command is called, a line each or more where they are long; what `docs/commands.txt` holds. */
export function helpOf(commands: readonly Command[]): string {
  const each = commands.map(({ name, takes, options }) => usage(name, [takes, ...options.map(shown)]));
  return [...each, usage('batch', ['[FILE]'])].join('');
}

function usage(name: string, words: readonly string[]): string {
  const lead = `  ./coffer ${name}`;
  const lines = [lead];
  for (const word of words) {
    const last = lines.at(-1) ?? '';
    if (`${last} ${word}`.length <= width) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(`${' '.repeat(lead.length)} ${word}`);
  }
  return `${lines.join('\n')}\n`;
}
