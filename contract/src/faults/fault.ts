import type * as v from 'valibot';

/** One thing wrong with what was sent: where, and what is wrong with what would be right. */
export interface Fault {
  /** The key at fault, with dots between levels; empty for the whole. */
  readonly key: string;
  readonly message: string;
}

const most = 60;

/** What was found, short enough for a message. */
function shown(value: unknown): string {
  const text = JSON.stringify(value) ?? String(value);
  return text.length > most ? `${text.slice(0, most)}…` : text;
}

function nameOfType(value: unknown): string {
  if (value === null) return 'null';
  if (Array.isArray(value)) return 'a list';
  return typeof value === 'object' ? 'an object' : `the ${typeof value} ${shown(value)}`;
}

function messageOf(issue: v.BaseIssue<unknown>): string {
  if (issue.type === 'strict_object' && issue.expected === 'never') {
    return 'This key is not known here.';
  }
  if (issue.received === 'undefined') {
    const expected = issue.expected && !issue.expected.startsWith('"') ? ` (${issue.expected})` : '';
    return `This key is missing${expected}.`;
  }
  if (issue.kind === 'schema') {
    if (issue.type === 'picklist' || issue.type === 'literal' || issue.type === 'variant') {
      return `Found ${shown(issue.input)}; expected ${(issue.expected ?? '').replaceAll(' | ', ' or ').replaceAll(/[()]/g, '')}.`;
    }
    return `Found ${nameOfType(issue.input)}; expected ${(issue.expected ?? 'something else').toLowerCase()}.`;
  }
  return `Found ${shown(issue.input)}; ${issue.message}`;
}

/** The issues of a failed parse as faults, for each key the first: what follows from it would only repeat it. */
export function faultsOf(issues: readonly v.BaseIssue<unknown>[]): Fault[] {
  const faults = new Map<string, Fault>();
  for (const issue of issues) {
    const key = (issue.path ?? []).map((item) => String(item.key)).join('.');
    if (!faults.has(key)) faults.set(key, { key, message: messageOf(issue) });
  }
  return [...faults.values()];
}
