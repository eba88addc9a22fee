import { Router } from 'express';
import type { Knex } from 'knex';
import { formatDay } from '@coffer/core';
import {
  endpoints,
  indexKey,
  isSameRate,
  mostFixings,
  type FetchedView,
  type PublishedIndexes,
} from '@coffer/contract';
import type { Clock } from '../clock.ts';
import { serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { followRates, lookAtFixings, ratesOf } from './follow-rates.ts';
import { fetchPublished } from './rate-service.ts';
import { publishedOf } from './rate-store.ts';

/** The reference rates of a company, and how their fixings reach the instruments that follow them. */
export function rateRoutes(
  database: Knex,
  figures: FigureThreads,
  today: Clock,
  rateService: string | undefined,
): Router {
  const router = Router();
  serve(router, database, endpoints.rates, ({ person, database: on }) => ratesOf(on, person.companyId));
  serve(router, database, endpoints.lookAtFixings, async ({ body, person, database: on }) => {
    const { view } = await lookAtFixings(on, figures, person.companyId, body);
    return view;
  });
  serve(router, database, endpoints.keepFixings, ({ body, person, database: on }) =>
    followRates(on, figures, person, body),
  );
  serve(router, database, endpoints.fetchFixings, async ({ person, database: on }) => ({
    indexes: unkept(
      await fetchPublished(rateService, formatDay(today())),
      await publishedOf(on, person.companyId),
    ),
  }));
  return router;
}

/** What a service has published that is not kept so. */
function unkept(published: FetchedView['indexes'], kept: PublishedIndexes): FetchedView['indexes'] {
  return published.flatMap(({ name, fixings }) => {
    const stood = new Map(kept[indexKey(name)]?.map(({ on, rate }) => [on, rate]));
    const other = fixings.filter(({ on, rate }) => {
      const was = stood.get(on);
      return was === undefined || !isSameRate(was, rate);
    });
    // The newest first where they are more than are kept at once; the others are there when it is asked again.
    return other.length === 0 ? [] : [{ name, fixings: other.slice(-mostFixings) }];
  });
}
