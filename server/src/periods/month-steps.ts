import type { Knex } from 'knex';
import type { ConfirmCode, MonthComment, MonthStep } from '@coffer/contract';
import { periodsOf } from '../company/company-view.ts';
import { newestVersion, type Maker } from '../instruments/instrument-store.ts';
import { readParts, type CloseDigest } from './close-digest.ts';

/** Writes a step down: as the month was seen, or with what is to be seen to. */
export async function takeStep(
  database: Knex,
  by: Maker,
  endsOn: string,
  step: MonthStep['step'],
  {
    seen,
    comment,
    confirmed = [],
  }: { readonly seen?: CloseDigest; readonly comment?: string; readonly confirmed?: readonly ConfirmCode[] },
): Promise<void> {
  await database('period_step').insert({
    company_id: by.companyId,
    period_end: endsOn,
    step,
    taken_by: by.id,
    confirmed: [...confirmed],
    ...(seen && { digest: Buffer.from(seen.digest, 'hex') }),
    ...(seen && step === 'handed-over' && { parts: JSON.stringify(seen.parts) }),
    ...(comment !== undefined && { comment }),
  });
}

/** The month as it was handed over last; `undefined` where it never was. */
export async function handedOver(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<CloseDigest | undefined> {
  const row = await database('period_step')
    .where({ company_id: companyId, period_end: endsOn, step: 'handed-over' })
    .orderBy('id', 'desc')
    .first('digest', 'parts');
  return row?.digest ? { digest: row.digest.toString('hex'), parts: readParts(row.parts) } : undefined;
}

/** The digest that a month was closed with; nothing for one that was closed before there were any. */
export async function closedDigest(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<string | undefined> {
  const row = await database('period_step')
    .where({ company_id: companyId, period_end: endsOn, step: 'closed' })
    .first('digest');
  return row?.digest?.toString('hex');
}

/** The steps of a month, oldest first. */
export async function stepsOf(database: Knex, companyId: number, endsOn: string): Promise<MonthStep[]> {
  const rows = await database('period_step')
    .leftJoin('person', 'person.id', 'period_step.taken_by')
    .where({ company_id: companyId, period_end: endsOn })
    .orderBy('period_step.id')
    .select<(Omit<MonthStep, 'at'> & { at: Date })[]>(
      'step',
      'comment',
      'confirmed',
      'taken_at as at',
      'person.name as by',
    );
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** Who signed for a month, and on which day, `YYYY-MM-DD`. */
interface Signature {
  readonly by: string;
  readonly on: string;
}

/** Who prepared a closed month and who approved it; nobody approved one that was closed by one person. */
export interface Signatures {
  readonly prepared: Signature | undefined;
  readonly approved: Signature | undefined;
}

/** The signatures of a month; none where it is not closed. */
export async function signaturesOf(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<Signatures | undefined> {
  const period = (await periodsOf(database, companyId)).find((each) => each.endsOn === endsOn);
  if (!period?.closedAt) return undefined;
  const steps = await stepsOf(database, companyId, endsOn);
  const signed = (step: MonthStep['step']): Signature | undefined => {
    const { by, at } = steps.findLast((each) => each.step === step) ?? {};
    return by && at ? { by, on: at.slice(0, 10) } : undefined;
  };
  return period.closedAs === 'reviewed'
    ? { prepared: signed('handed-over'), approved: signed('closed') }
    : { prepared: signed('closed'), approved: undefined };
}

/** What was said about a month, oldest first. */
export async function commentsOn(database: Knex, companyId: number, endsOn: string): Promise<MonthComment[]> {
  const rows = await database('period_comment')
    .leftJoin('person', 'person.id', 'period_comment.said_by')
    .where({ company_id: companyId, period_end: endsOn })
    .orderBy('period_comment.id')
    .select<{ instrumentId: string | null; text: string; at: Date; by: string | null }[]>(
      'instrument_id as instrumentId',
      'text',
      'said_at as at',
      'person.name as by',
    );
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** Keeps what was said about a month, or about an instrument of the company in it. Throws Refusal 404. */
export async function keepComment(
  database: Knex,
  by: Maker,
  endsOn: string,
  text: string,
  instrumentId: string | undefined,
): Promise<void> {
  // Of this company, or there is none.
  if (instrumentId !== undefined) await newestVersion(database, by.companyId, instrumentId);
  await database('period_comment').insert({
    company_id: by.companyId,
    period_end: endsOn,
    instrument_id: instrumentId ?? null,
    text,
    said_by: by.id,
  });
}
