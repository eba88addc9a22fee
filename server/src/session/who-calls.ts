import type { Request, RequestHandler } from 'express';
import type { Knex } from 'knex';
import type { Permission, PersonView } from '@coffer/contract';
import type { CompanyRow, MemberRow } from '../database/tables.ts';
import { hasEnded, endSession } from './sessions.ts';

/** A company that a visitor is of. */
export interface Membership {
  readonly companyId: number;
  readonly companyName: string;
  readonly role: readonly Permission[];
  readonly secondFactorRequired: boolean;
}

/** Somebody who is logged in, whichever company they work for. */
export interface Visitor {
  readonly id: number;
  readonly name: string;
  readonly logIn: string;
  readonly hasSecondFactor: boolean;
  readonly memberships: readonly Membership[];
}

declare module 'express-serve-static-core' {
  interface Request {
    visitor?: Visitor;
  }
}

/** Looks up who a session belongs to, anew for each call, so that a changed role or a suspension counts at once. */
export function whoCalls(database: Knex): RequestHandler {
  return async (request, _response, next) => {
    const visitor = await visitorOf(database, request);
    if (visitor) request.visitor = visitor;
    next();
  };
}

async function visitorOf(database: Knex, request: Request): Promise<Visitor | undefined> {
  const { personId, startedAt } = request.session;
  if (personId === undefined) return undefined;
  if (startedAt === undefined || hasEnded(startedAt)) {
    await endSession(request);
    return undefined;
  }
  return visitorBy(database, personId);
}

/** A person with the companies that they are of and not suspended from, by name of the company. */
export async function visitorBy(database: Knex, personId: number): Promise<Visitor | undefined> {
  const person = await database('person').where({ id: personId }).first();
  if (!person) return undefined;
  const factor = await database('second_factor')
    .where({ person_id: personId })
    .whereNotNull('since')
    .first('person_id');
  const rows = await database('member')
    .join('company', 'company.id', 'member.company_id')
    .where({ person_id: personId, suspended_at: null })
    .orderByRaw('lower(company.name)')
    .select<(Pick<CompanyRow, 'id' | 'name' | 'second_factor_required'> & Pick<MemberRow, 'role'>)[]>(
      'company.id',
      'company.name',
      'member.role',
      'company.second_factor_required',
    );
  return {
    id: person.id,
    name: person.name,
    logIn: person.log_in,
    hasSecondFactor: factor !== undefined,
    memberships: rows.map((row) => ({
      companyId: row.id,
      companyName: row.name,
      role: row.role,
      secondFactorRequired: row.second_factor_required,
    })),
  };
}

/** A visitor as they see themselves. */
export function personViewOf({ name, logIn, memberships }: Visitor): PersonView {
  const companies = memberships.map(({ companyId: id, companyName, role }) => ({
    id,
    name: companyName,
    role: [...role],
  }));
  return { name, logIn, companies };
}
