import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { paymentsOfMonth } from './payments-of-month.ts';
import { recordPayments, takeBackPayments } from './record-payments.ts';

/** Payments of loans and credit lines as they left the bank. */
export function paymentRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.duePayments, ({ person, database: on }) =>
    paymentsOfMonth(on, figures, person.companyId),
  );
  serve(router, database, endpoints.recordPayments, ({ body, person, database: on }) =>
    recordPayments(on, figures, person, body.payments, body.confirm),
  );
  serve(router, database, endpoints.takeBackPayments, ({ body, person, database: on }) =>
    takeBackPayments(on, figures, person, body.payments, body.reason, body.confirm),
  );
  return router;
}
