import type { EntryView } from '@coffer/contract';
import { loanDocument, type Answer } from './test-server.ts';

/** A document as tests change it. */
export type Document = Record<string, unknown> & { events?: object[] };

/** 100,000.00 from 10 January 2026 at 6 % on actual days, level over twelve months. */
export function loan(more: object = {}): Document {
  return {
    ...loanDocument('Loan'),
    start: '2026-01-10',
    rate: { annual: '6%', dayCount: 'ACT/365F' },
    ...payments('2026-02-10', 12),
    ...more,
  };
}

/** Monthly level payments. */
export function payments(first: string, count: number): object {
  return { payments: { every: 'month', first, phases: [{ type: 'level', count }] } };
}

/** A credit line at 6 % on actual days. */
export function line(more: object): Document {
  return {
    document: 'coffer.instrument/1',
    kind: 'credit-line',
    name: 'Line',
    currency: 'EUR',
    rate: { annual: '6%', dayCount: 'ACT/365F' },
    ...more,
  };
}

/** A document with one event more. */
export function withEvent(event: object): (document: Document) => Document {
  return (document) => ({ ...document, events: [...(document.events ?? []), event] });
}

/** What entries move in an account, debits positive. */
export function moved(entries: readonly EntryView[], role: string): number {
  return entries
    .flatMap(({ lines }) => lines)
    .filter((each) => each.role === role)
    .reduce((sum, { debit, credit }) => sum + debit - credit, 0);
}

/** The status of an answer, and the code of what it asks about last. */
export function asked({ status, body }: Answer): unknown {
  return [status, body.error?.confirm?.at(-1)?.code];
}
