import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { logUnworkable, serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { adoptScenario } from './adopt-scenario.ts';
import {
  allScenarios,
  deleteScenario,
  insertScenario,
  oneScenario,
  updateScenario,
} from './scenario-store.ts';
import { sideBySide } from './side-by-side.ts';

/** Keeping scenarios, looking at them side by side, and making one the terms. */
export function scenarioRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.scenarios, async ({ person, database: on }) => ({
    scenarios: await allScenarios(on, person.companyId),
  }));
  serve(router, database, endpoints.sideBySide, async ({ body, person, request, database: on }) => {
    const view = await sideBySide(on, figures, person.companyId, body);
    logUnworkable(request, view.unworkable);
    return view;
  });
  serve(router, database, endpoints.keepScenario, async ({ body, person, database: on }) => {
    const id = await insertScenario(on, person, body);
    await audit(on, person, 'scenario-kept', [{ subject: id, detail: { name: body.name, revision: 1 } }]);
    return oneScenario(on, person.companyId, id);
  });
  serve(router, database, endpoints.changeScenario, async ({ params, body, person, database: on }) => {
    await updateScenario(on, person, params.id, body);
    const detail = { name: body.name, revision: body.revision + 1 };
    await audit(on, person, 'scenario-kept', [{ subject: params.id, detail }]);
    return oneScenario(on, person.companyId, params.id);
  });
  serve(router, database, endpoints.dropScenario, async ({ params, query, person, database: on }) => {
    const name = await deleteScenario(on, person.companyId, params.id, query.revision);
    await audit(on, person, 'scenario-taken-away', [{ subject: params.id, detail: { name } }]);
    return { id: params.id };
  });
  serve(router, database, endpoints.adoptScenario, ({ params, body, person, database: on }) =>
    adoptScenario(on, figures, person, params.id, body),
  );
  return router;
}
