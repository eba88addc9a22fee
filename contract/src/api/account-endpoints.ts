import * as v from 'valibot';
import {
  accountCode,
  broughtBy,
  chartBody,
  chartView,
  ledgerBody,
  ownAccountsBody,
} from './account-views.ts';
import { endpoint } from './endpoint.ts';
import { instrumentId } from './ids.ts';
import { charting, preparing } from './permissions.ts';

const revised = v.strictObject({ revision: v.number() });

/** The chart of accounts. */
export const accountEndpoints = {
  accounts: endpoint(
    'get',
    '/api/accounts',
    'The chart of accounts, what stands for each role, and what was brought in',
    'member',
    { answer: chartView },
  ),
  broughtInto: endpoint(
    'get',
    '/api/accounts/brought-in',
    'What each instrument brings into an account on the first day of the books',
    'member',
    {
      query: v.strictObject({ code: accountCode }),
      answer: v.strictObject({ instruments: v.array(broughtBy) }),
    },
  ),
  keepAccounts: endpoint(
    'put',
    '/api/accounts',
    'Replace the chart and the accounts of roles; refused where one that is in use would go away',
    charting,
    { body: chartBody, answer: revised },
  ),
  keepLedger: endpoint(
    'put',
    '/api/accounts/ledger',
    'What the ledger held on the day before the books, which what is brought in must tie to',
    charting,
    { body: ledgerBody, answer: v.strictObject({}) },
  ),
  keepOwnAccounts: endpoint(
    'put',
    '/api/instruments/:id/accounts',
    'The accounts that an instrument has of its own, and its cost centre; what is posted keeps its codes',
    preparing,
    { params: v.strictObject({ id: instrumentId }), body: ownAccountsBody, answer: v.strictObject({}) },
  ),
} as const;
