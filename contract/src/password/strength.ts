import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

let meter: ZxcvbnFactory | undefined;

/** How hard a password is to guess. */
export interface PasswordStrength {
  /** 0 (guessed at once) to 4 (beyond reach). */
  readonly score: number;
  /** Whether it is among the first that anybody would try: common passwords, names, runs, repeats, and their mixtures. */
  readonly common: boolean;
}

/**
 * Estimates how hard a password is to guess, with a list of about fifty thousand common ones.
 *
 * @param names what others know of the person, such as log-in name and company
 */
export function passwordStrength(password: string, names: readonly string[]): PasswordStrength {
  meter ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const known = names
    .flatMap((name) => [name, name.replaceAll(/\W+/g, ''), ...name.split(/\W+/)])
    .filter((word) => word.length > 2);
  const { score } = meter.check(password, [...known, 'coffer']);
  return { score, common: score < 2 };
}
