import type { Knex } from 'knex';
import type { ConfirmCode, Fault, ScenarioView } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import type { Keepable } from '../instruments/read-to-keep.ts';
import { audit } from '../audit/audit.ts';
import { askFirst, faultyInput, Refusal } from '../http/refusal.ts';
import { saveVersions, type Saved } from '../instruments/change-instrument.ts';
import { newestVersionsOf, type Maker, type NextVersion } from '../instruments/instrument-store.ts';
import { reportedAmong } from '../instruments/reported-positions.ts';
import { closedMonths } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { deleteScenario, lockScenario, oneScenario } from './scenario-store.ts';

/**
 * Makes a scenario the terms: a new version of every instrument that it changes, with one reason, all or none; the
 * scenario ends with it. Throws {@link Refusal} 409 with the names of instruments that were changed or withdrawn
 * meanwhile, or with what is to be confirmed first, and 422 with what is wrong with a change.
 */
export async function adoptScenario(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  id: string,
  sent: { readonly revision: number; readonly reason: string; readonly confirm: readonly ConfirmCode[] },
): Promise<{ saved: Saved[] }> {
  await lockScenario(database, by.companyId, id, sent.revision);
  const scenario = await oneScenario(database, by.companyId, id);
  refuseChanged(scenario);
  const ids = scenario.changes.map(({ instrumentId }) => instrumentId);
  const stored = await newestVersionsOf(database, by.companyId, ids);
  const versionOf = new Map(stored.map((version) => [version.id, version]));
  const reported = await reportedAmong(database, ids);
  const items = scenario.changes.flatMap((change) => {
    const version = versionOf.get(change.instrumentId);
    return version ? [{ version, change, reported: reported.has(version.id) }] : [];
  });
  const closed = await closedMonths(database, by.companyId);
  const kept = await figures.each('changed-to-keep', closed, items);
  const { currency, name: company } = await companyOf(database, by.companyId);
  const faultsOf = (one: Keepable): readonly Fault[] => {
    if (!one.ok) return one.faults;
    if (one.currency === currency) return [];
    const message = `Found ${one.currency}; ${company} keeps its books in ${currency}.`;
    return [{ key: 'terms.currency', message }];
  };
  const faults = kept.flatMap((one, at) =>
    faultsOf(one).map(({ key, message }) => ({
      key: [`changes.${at}`, key].filter(Boolean).join('.'),
      message: `${items[at]?.change.name}: ${message}`,
    })),
  );
  if (faults.length > 0)
    throw faultyInput(faults, `${scenario.name} cannot become the terms. Nothing was changed.`);
  askFirst(
    kept.flatMap((one) => (one.ok ? one.questions : [])),
    sent.confirm,
  );
  const changes = kept.flatMap((one, at): NextVersion[] => {
    const version = items[at]?.version;
    if (!one.ok || !version) return [];
    return [{ id: version.id, from: version.version, document: one.document, reason: sent.reason }];
  });
  await saveVersions(database, by, changes);
  await deleteScenario(database, by.companyId, id, sent.revision);
  const detail = { name: scenario.name, reason: sent.reason, instruments: changes.length };
  await audit(database, by, 'scenario-adopted', [{ subject: id, detail }]);
  return { saved: changes.map((change) => ({ id: change.id, version: change.from + 1 })) };
}

function refuseChanged({ name, changes }: ScenarioView): void {
  const other = changes.filter(({ version, newest, withdrawn }) => withdrawn || version !== newest);
  if (other.length === 0) return;
  const named = other.map((each) => `${each.name} ${each.withdrawn ? 'was withdrawn' : 'was changed'}`);
  throw new Refusal(
    409,
    'changed-meanwhile',
    `Since ${name} was kept, ${named.join(', ')}. Nothing was changed; look at the scenario on the terms as they are now, keep it so, and make it the terms then.`,
  );
}
