import { readdirSync, readFileSync } from 'node:fs';
import { compileFunction } from 'node:vm';
import { describe, expect, it } from 'vitest';
import * as core from '../index.ts';
import * as samples from './samples.ts';

/** An example of a doc comment: what is written, and what it is said to give. */
interface Example {
  readonly code: string;
  readonly gives: string;
}

const root = new URL('..', import.meta.url);
const documented = /\/\*\*((?:(?!\*\/)[^])*)\*\/\s*export (?:function\*?|const) (\w+)/g;

/** The examples of all doc comments, by what they are of: the code, then what it gives behind two slashes. */
function examples(): ReadonlyMap<string, Example> {
  const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((file) =>
    /(?<!\.test)\.ts$/.test(file),
  );
  const found = files.flatMap((file) => [
    ...readFileSync(new URL(file.replaceAll('\\', '/'), root), 'utf8').matchAll(documented),
  ]);
  return new Map(
    found.flatMap(([, comment = '', name = '']): [string, Example][] => {
      const [, example] = comment.split('@example');
      if (example === undefined) return [];
      const text = example.replaceAll(/^\s*\* ?/gm, '').trim();
      const at = text.lastIndexOf('// ');
      return [[name, { code: text.slice(0, at), gives: text.slice(at + 3) }]];
    }),
  );
}

const names = { ...core, ...samples };

/** What an expression gives, with all of the core and the samples at hand. */
function given(expression: string): unknown {
  return (compileFunction(`return (${expression})`, Object.keys(names)) as (...of: unknown[]) => unknown)(
    ...Object.values(names),
  );
}

const isFunction = (value: unknown): boolean =>
  typeof value === 'function' && !Function.prototype.toString.call(value).startsWith('class');

describe('an example in the doc comment', () => {
  const found = examples();
  const functions = Object.entries(core).flatMap(([name, value]) => (isFunction(value) ? [name] : []));

  it.each(functions)('of %s gives what it says, and uses it', (name) => {
    const example = found.get(name);
    expect(example, `${name} has no example`).toBeDefined();
    const { code = '', gives = '' } = example ?? {};
    expect(code).toMatch(new RegExp(`\\b${name}\\(`));
    expect(given(code)).toEqual(given(gives));
  });
});
