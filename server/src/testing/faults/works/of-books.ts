import { randomBytes, randomUUID } from 'node:crypto';
import { formatAmount } from '@coffer/core';
import { pdf } from '../../small-files.ts';
import { loanDocument, type Caller } from '../../test-server.ts';
import type { Place } from '../place.ts';
import { adding, confirm, sending, sent, type Kind } from './work.ts';

/** The register, in which a work is seen whole or not at all. */
const seen = { path: '/api/register?on=2027-03-31' };

interface Due {
  readonly instrumentId: string;
  readonly version: number;
  readonly due: string;
  readonly amount: number;
  readonly recorded: readonly object[];
}

export const recording: Kind = async (draw, place, { ilka }) => {
  const { body } = await ilka.call('GET', '/api/payments');
  const open = (body.payments as Due[]).filter(({ recorded }) => recorded.length === 0);
  const payments = open.slice(0, 1 + draw(12)).map(({ instrumentId, version, due, amount }) => ({
    instrumentId,
    version,
    due,
    on: due,
    amount: formatAmount(amount, 2),
  }));
  if (payments.length === 0) return undefined;
  const versions = new Set(payments.map(({ instrumentId }) => instrumentId)).size;
  const act = sending(place, ilka, '/api/payments', { payments, confirm });
  return adding(place, { name: 'recording', act, lasts: 80, seen }, { versions });
};

export const takingOn: Kind = async (draw, place, { ilka }) => {
  const many = 1 + draw(60);
  const name = randomUUID().slice(0, 8);
  const documents = Array.from({ length: many }, (_, at) => loanDocument(`Loan ${name} ${at}`));
  const act = sending(place, ilka, '/api/instruments/many', { documents, confirm });
  return adding(place, { name: 'taking on', act, lasts: 180, seen }, { instruments: many, versions: many });
};

/** The open month, and what it comes to. */
async function openMonth(
  place: Place,
  by: Caller,
): Promise<{ path: string; digest: string; rows: number; draftCount: number; reversalCount: number }> {
  const { ends } = await place.asked<{ ends: string }>(
    `select ends_on::text as ends from period where company_id = 1 and state <> 'closed'`,
  );
  const path = `/api/periods/${ends}`;
  const { status, body, text } = await by.call('GET', `${path}/close`);
  if (status !== 200) throw new Error(text);
  const { digest, rows, draftCount, reversalCount } = body;
  return { path, digest, rows: rows.length, draftCount, reversalCount };
}

export const handingOver: Kind = async (_, place, { ilka }) => {
  const { path, digest } = await openMonth(place, ilka);
  const act = sending(place, ilka, `${path}/hand-over`, { digest, confirm });
  return adding(place, { name: 'handing over', act, lasts: 350 }, { handed: 1 });
};

export const approving: Kind = async (_, place, { ilka, bram }) => {
  const { path, digest } = await openMonth(place, ilka);
  const handed = await ilka.call('POST', `${path}/hand-over`, { digest, confirm });
  if (handed.status !== 200) throw new Error(handed.text);
  const { rows, draftCount, reversalCount } = await openMonth(place, bram);
  const act = sending(place, bram, `${path}/approve`, { digest, confirm });
  const adds = { closed: 1, reported: rows, entries: draftCount + reversalCount };
  return adding(place, { name: 'approving', act, lasts: 400, seen: { path: '/api/company' } }, adds);
};

/** A paper of up to some megabytes. */
export const bringingPaper: Kind = async (draw, place, { ilka }) => {
  const { id } = await place.asked<{ id: string }>(
    'select id from instrument where company_id = 1 order by name limit 1',
  );
  const bytes = Buffer.concat([pdf, randomBytes(1 + draw(6_000_000)), Buffer.from('\n%%EOF\n')]);
  const path = `/api/instruments/${id}/papers?name=Letter.pdf`;
  const act = (at = 0): Promise<string> =>
    sent(path, () => ilka.at(place.address(at)).sendFile(path, new Uint8Array(bytes)));
  return adding(place, { name: 'bringing a paper', act, lasts: 60 }, { papers: 1 });
};
