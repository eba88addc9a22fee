import { accountRoles, type AccountRole } from '@coffer/core';
import { accountName, suggestedRoles } from '@coffer/contract';

/** An account as it is typed: its code and its name. */
export interface ChartLine {
  readonly code: string;
  readonly name: string;
}

/** What was made of pasted or read lines. */
export interface ReadChart {
  readonly lines: readonly ChartLine[];
  /** Lines that are no account, each with its number and why. */
  readonly faults: readonly string[];
}

const heading = /^(account|code|konto|no\.?|number|nr\.?)/i;

/**
 * Accounts from a table: the first column that is filled is the code, the next one the name. A line of titles before
 * them is passed over, and so are empty lines; a code that comes twice is said.
 */
export function chartOfTable(rows: readonly (readonly string[])[]): ReadChart {
  const lines: ChartLine[] = [];
  const faults: string[] = [];
  const seen = new Map<string, number>();
  for (const [at, row] of rows.entries()) {
    const [code = '', name = ''] = row.map((cell) => cell.trim()).filter((cell) => cell !== '');
    if (code === '' || (lines.length === 0 && (name === '' || heading.test(code)))) continue;
    const first = seen.get(code);
    if (name === '') faults.push(`Line ${at + 1}: ${code} has no name beside it.`);
    else if (first !== undefined)
      faults.push(`Line ${at + 1}: the code ${code} stands in line ${first + 1} already.`);
    else {
      seen.set(code, at);
      lines.push({ code, name });
    }
  }
  return { lines, faults };
}

/** An account for each role that has none yet, where the name of one suggests it. */
export function suggestedAccounts(
  lines: readonly ChartLine[],
  chosen: ReadonlyMap<AccountRole, string>,
): ReadonlyMap<AccountRole, string> {
  const found = new Map(chosen);
  for (const role of accountRoles) {
    if (found.has(role)) continue;
    const exact = lines.find(({ name }) => name.toLowerCase() === accountName(role).toLowerCase());
    const line = exact ?? lines.find(({ name }) => suggestedRoles(name)[0] === role);
    if (line) found.set(role, line.code);
  }
  return found;
}
