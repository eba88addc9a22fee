import { formatDay, type AccountRole, type Entry, type EntryKind } from '@coffer/core';
import type { EntryLineView, EntryView } from '@coffer/contract';
import type { Accounts } from '../accounts/accounts.ts';

/** A line with what the company calls its account. */
export function lineView(
  accounts: Accounts,
  code: string | undefined,
  { role, debit, credit }: { readonly role: AccountRole; readonly debit: number; readonly credit: number },
): EntryLineView {
  const account = accounts.named(code, role);
  return { role, code: account.code, account: account.name, debit, credit };
}

/** An entry that is not posted yet. */
export function draftView(
  accounts: Accounts,
  entry: Entry,
  instrument: { readonly id: string; readonly name: string; readonly version: number },
): EntryView {
  return {
    number: null,
    date: formatDay(entry.date),
    kind: entry.kind,
    memo: entry.memo,
    instrumentId: instrument.id,
    instrument: instrument.name,
    version: instrument.version,
    row: entry.row,
    forPeriod: entry.belongsTo === undefined ? null : formatDay(entry.belongsTo),
    costCentre: accounts.costCentre(instrument.id),
    lines: entry.lines.map(({ account: role, debit, credit, code }) =>
      lineView(accounts, code ?? accounts.of(instrument.id, role)?.code, { role, debit, credit }),
    ),
  };
}

/** A posted line joined to its entry. */
export interface PostedLine {
  readonly number: number;
  readonly date: string;
  readonly kind: EntryKind;
  readonly memo: string;
  readonly instrument_id: string;
  readonly instrument: string;
  readonly version: number;
  readonly for_period: string | null;
  readonly row_number: number | null;
  readonly cost_centre: string | null;
  readonly code: string;
  readonly role: AccountRole;
  readonly debit: number;
  readonly credit: number;
}

/** Posted lines, in order, gathered into their entries. */
export function postedViews(accounts: Accounts, lines: readonly PostedLine[]): EntryView[] {
  const views: EntryView[] = [];
  for (const line of lines) {
    let view = views.at(-1);
    if (view?.number !== line.number) {
      view = {
        number: line.number,
        date: line.date,
        kind: line.kind,
        memo: line.memo,
        instrumentId: line.instrument_id,
        instrument: line.instrument,
        version: line.version,
        row: line.row_number,
        forPeriod: line.for_period,
        costCentre: line.cost_centre,
        lines: [],
      };
      views.push(view);
    }
    view.lines.push(lineView(accounts, line.code, line));
  }
  return views;
}
