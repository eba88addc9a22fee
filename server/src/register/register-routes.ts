import { Router } from 'express';
import type { Knex } from 'knex';
import { firstDay, maturities, parseDay, yearsApart, type CalendarDay } from '@coffer/core';
import {
  describeInstrument,
  endpoints,
  type Attention,
  type FiguresView,
  type RegisterRow,
  type RegisterView,
  type UnrecordedPayment,
  type Unworkable,
} from '@coffer/contract';
import { logUnworkable, serve } from '../http/route.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import { figuresOfRow, type ReportedRow } from '../instruments/instrument-view.ts';
import {
  figuresOn,
  isSettled,
  workedOut,
  type KnownInstrument,
  type StoredVersion,
} from '../instruments/known-instruments.ts';
import { attentionOn } from './attention.ts';
import { openPeriod } from '../periods/period-store.ts';
import { unrecordedBy } from '../payments/payments-due.ts';
import { inShares } from '../workers/shares.ts';

/** The register on a day. */
export function registerRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.register, async ({ query, person, request, database: on }) => {
    const view = await registerOn(on, person.companyId, query.on);
    logUnworkable(request, view.unworkable);
    return view;
  });
  return router;
}

async function registerOn(database: Knex, companyId: number, on: string): Promise<RegisterView> {
  const reported = await reportedOn(database, companyId, on);
  const day = parseDay(on) as CalendarDay;
  const open = await openPeriod(database, companyId);
  const rows: RegisterRow[] = [];
  const unrecorded: UnrecordedPayment[] = [];
  const attention: Attention[] = [];
  const due = new Array<number>(yearsApart + 1).fill(0);
  let settled = 0;
  const stored: ReportedInstrument[] =
    reported ?? (await newestVersions(database, companyId)).map((version) => ({ version }));
  const unworkable: Unworkable[] = [];
  await inShares(stored, ({ version, figures }) => {
    const worked = workedOut(version, (instrument) => {
      const unrecordedOf = !reported && open ? unrecordedBy(instrument, open.ends_on, day) : [];
      if (firstDay(instrument.schedule) > day) return { unrecordedOf };
      const row = registerRow(instrument, figures ?? figuresOn(instrument, day), day);
      const seenTo = attentionOn(instrument, row.figures, day);
      const over = isSettled(instrument, row.figures, day);
      return { unrecordedOf, row, over, seenTo, dues: maturities(instrument.schedule, day) };
    });
    if ('unworkable' in worked) {
      unworkable.push(worked.unworkable);
      return;
    }
    const { unrecordedOf, row, over, seenTo = [], dues = [] } = worked.made;
    unrecorded.push(...unrecordedOf);
    attention.push(...seenTo);
    if (over) settled += 1;
    else if (row) rows.push(row);
    dues.forEach((amount, year) => {
      due[year] = (due[year] ?? 0) + amount;
    });
  });
  const wasReported = reported !== undefined;
  return { on, reported: wasReported, rows, unworkable, settled, unrecorded, attention, maturities: due };
}

function registerRow(
  { id, version, document, schedule }: KnownInstrument,
  figures: FiguresView,
  day: CalendarDay,
): RegisterRow {
  return {
    id,
    version,
    kind: document.kind,
    name: document.name,
    lender: document.lender ?? null,
    ...describeInstrument(document, schedule, day),
    figures,
  };
}

interface ReportedInstrument {
  readonly version: StoredVersion;
  readonly figures?: FiguresView;
}

/** What a closed period reported, if the day ends one. */
async function reportedOn(
  database: Knex,
  companyId: number,
  on: string,
): Promise<ReportedInstrument[] | undefined> {
  const closed = await database('period')
    .where({ company_id: companyId, ends_on: on, state: 'closed' })
    .first<object | undefined>();
  if (!closed) return undefined;
  const rows = await database('reported_position')
    .join('instrument_version', (join) => {
      join
        .on('instrument_version.instrument_id', 'reported_position.instrument_id')
        .andOn('instrument_version.version', 'reported_position.instrument_version');
    })
    .where({ company_id: companyId, period_end: on })
    .orderByRaw(`lower(instrument_version.document ->> 'name')`)
    .select<(ReportedRow & { document: unknown })[]>('reported_position.*', 'instrument_version.document');
  return rows.map((row) => ({
    version: { id: row.instrument_id, version: row.instrument_version, document: row.document },
    figures: figuresOfRow(row),
  }));
}
