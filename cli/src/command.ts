import { parseArgs } from 'node:util';
import { parseDay, type CalendarDay } from '@coffer/core';
import { UsageFault } from './usage-fault.ts';

/** An option of a command. */
export interface Option {
  readonly name: string;
  /** What follows it, as help shows it; left out for one that stands alone. */
  readonly takes?: string;
  readonly needed?: true;
}

/** What a command found, in each form that it can be asked for. */
export interface Answer {
  readonly json: unknown;
  readonly csv?: () => string;
  /** A table for people. */
  readonly text: () => string;
}

/** A question that is asked on the command line. */
export interface Command {
  readonly name: string;
  /** The files that it is asked about, as help shows them. */
  readonly takes: string;
  readonly options: readonly Option[];
  /** Answers. Throws {@link UsageFault} for files and options that do not fit. */
  run(given: Given): Answer;
}

/** The forms that an answer can be asked for in, besides the table for people. */
export const forms: readonly Option[] = [{ name: 'json' }, { name: 'csv' }];

/** What a command was called with. */
export class Given {
  private constructor(
    readonly files: readonly string[],
    private readonly values: Readonly<Record<string, string | boolean | undefined>>,
  ) {}

  /** Reads the words after a command's name. Throws for an option that it does not have. */
  static of({ options }: Pick<Command, 'options'>, args: readonly string[]): Given {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: Object.fromEntries(
        options.map(({ name, takes }) => [
          name,
          { type: takes === undefined ? 'boolean' : 'string' } as const,
        ]),
      ),
    });
    return new Given(positionals, values);
  }

  /** The one file that a command takes. */
  file(command: string, unsaid?: string): string {
    const [file = unsaid, ...rest] = this.files;
    if (file === undefined || rest.length > 0) {
      throw new UsageFault(`${command} takes one FILE, or - for standard input.`);
    }
    return file;
  }

  has(name: string): boolean {
    return this.values[name] !== undefined;
  }

  text(name: string): string | undefined {
    const value = this.values[name];
    return typeof value === 'string' ? value : undefined;
  }

  /** A whole number of an option, from one bound to another; another where none is given. */
  count(name: string, least: number, most: number, unsaid: number): number {
    const text = this.text(name);
    if (text === undefined) return unsaid;
    const count = /^\d{1,6}$/.test(text) ? Number(text) : NaN;
    if (count >= least && count <= most) return count;
    throw new UsageFault(`--${name} ${text} is not a whole number from ${least} to ${most}.`);
  }

  /** The date of an option that is needed. */
  day(name: string): CalendarDay {
    const text = this.text(name);
    if (text === undefined) throw new UsageFault(`--${name} is missing; give a date such as 2026-10-31.`);
    const day = parseDay(text);
    if (day === undefined) throw new UsageFault(`--${name} ${text} is not a date such as 2026-10-31.`);
    return day;
  }

  /** One of several words, the first where none is given. */
  oneOf<Word extends string>(name: string, words: readonly [Word, ...Word[]]): Word {
    const text = this.text(name) ?? words[0];
    const word = words.find((each) => each === text);
    if (word === undefined) throw new UsageFault(`--${name} ${text} is not one of ${words.join(', ')}.`);
    return word;
  }

  /** A range of payment numbers such as `13-24`. */
  range(name: string): { readonly from: number; readonly to: number } | undefined {
    const text = this.text(name);
    if (text === undefined) return undefined;
    const match = /^(\d+)-(\d+)$/.exec(text);
    const range = { from: Number(match?.[1]), to: Number(match?.[2]) };
    if (!match || range.from < 1 || range.to < range.from) {
      throw new UsageFault(`--${name} ${text} is not a range of payment numbers such as 13-24.`);
    }
    return range;
  }
}
