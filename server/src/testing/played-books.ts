import type { EntryView } from '@coffer/contract';
import { loanDocument, TestServer, type Answer, type Caller } from './test-server.ts';

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

/** Whether what is asked about is confirmed. */
type How = 'call' | 'insist';

/** A company from the first day of its books, and what its preparer does in them. */
export class PlayedBooks {
  private constructor(
    readonly server: TestServer,
    readonly preparer: Caller,
  ) {}

  static async start(): Promise<PlayedBooks> {
    const server = await TestServer.startEmpty('2026-01-01');
    return new PlayedBooks(server, await server.as('ilka'));
  }

  /** Ends them; gives what in them does not agree. */
  async end(): Promise<string[]> {
    const found = await this.server.disagreements();
    await this.server.stop();
    return found;
  }

  async takeOn(document: Document): Promise<string> {
    const { status, body, text } = await this.preparer.insist('POST', '/api/instruments', { document });
    if (status !== 200) throw new Error(text);
    return body.id;
  }

  async lock(...months: string[]): Promise<void> {
    for (const endsOn of months) {
      const { status, text } = await this.preparer.insist('POST', `/api/periods/${endsOn}/lock`, {});
      if (status !== 200) throw new Error(text);
    }
  }

  async pay(id: string, due: string, on: string, amount: string, how: How): Promise<Answer> {
    const { body } = await this.preparer.call('GET', `/api/instruments/${id}`);
    const made = { instrumentId: id, version: body.version, due, on, amount };
    return this.preparer[how]('POST', '/api/payments', { payments: [made] });
  }

  async change(id: string, to: (document: Document) => Document, how: How): Promise<Answer> {
    const { body } = await this.preparer.call('GET', `/api/instruments/${id}`);
    const sent = { version: body.version, document: to(body.document), reason: 'Put right' };
    return this.preparer[how]('PUT', `/api/instruments/${id}`, sent);
  }

  /** The entries that a month makes for an instrument. */
  async entriesOf(id: string, endsOn: string): Promise<EntryView[]> {
    return (await this.preparer.call('GET', `/api/periods/${endsOn}/close/${id}`)).body.entries;
  }
}
