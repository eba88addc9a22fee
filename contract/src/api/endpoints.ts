import * as v from 'valibot';
import { portfolioMeasures, portfolioSteps } from '@coffer/core';
import { dayText, shortText } from '../document/scalars.ts';
import { accountEndpoints } from './account-endpoints.ts';
import { bundleEndpoints } from './bundle-endpoints.ts';
import { closeEndpoints } from './close-endpoints.ts';
import { confirm } from './confirm.ts';
import { correctionEndpoints } from './correction-endpoints.ts';
import { endpoint, fileAnswer } from './endpoint.ts';
import {
  scenarioBody,
  scenarioChanges,
  scenarioId,
  scenarioView,
  sideBySideView,
  triedPortfolioView,
} from './scenario-views.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { paperEndpoints } from './paper-endpoints.ts';
import { peopleEndpoints } from './people-endpoints.ts';
import { preparing, proposing } from './permissions.ts';
import { portfolioView } from './portfolio-views.ts';
import {
  companyView,
  duePaymentsView,
  entryView,
  instrumentView,
  paymentMade,
  paymentTakenBack,
  reasonText,
  registerView,
} from './views.ts';
import { rateEndpoints } from './rate-endpoints.ts';
import { sessionEndpoints } from './session-endpoints.ts';
import { trailEndpoints } from './trail-endpoints.ts';
import { settingsEndpoints } from './settings-endpoints.ts';

const ofInstrument = v.strictObject({ id: instrumentId });
const ofScenario = v.strictObject({ id: scenarioId });
const saved = v.strictObject({ id: instrumentId, version: v.number() });
const version = v.pipe(v.number(), v.integer(), v.minValue(1));
const wholeNumber = v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'expected a whole number.'), v.transform(Number));

/** The most instruments that are taken on at once. */
export const mostAtOnce = 5000;

/** The span of entry dates, both included, that a journal call is about. */
export const journalQuery = v.strictObject({
  from: dayText,
  to: dayText,
  instrument: v.optional(instrumentId),
  after: v.optional(wholeNumber),
});

/** The periods and the measure that a portfolio is asked for. */
export const portfolioQuery = v.strictObject({
  from: dayText,
  to: dayText,
  by: v.picklist(portfolioSteps),
  show: v.picklist(portfolioMeasures),
});

export type PortfolioQuery = v.InferOutput<typeof portfolioQuery>;

/** Every call of the HTTP interface that answers with JSON. */
export const endpoints = {
  health: endpoint('get', '/api/health', 'Whether the application and its database answer', 'anyone', {
    answer: v.strictObject({ status: v.literal('ok'), database: v.literal('ok') }),
  }),
  ...sessionEndpoints,
  ...peopleEndpoints,
  ...accountEndpoints,
  ...rateEndpoints,
  ...paperEndpoints,
  ...settingsEndpoints,
  ...bundleEndpoints,
  company: endpoint('get', '/api/company', 'The company and its fiscal periods', 'member', {
    answer: companyView,
  }),
  register: endpoint('get', '/api/register', 'Every instrument on a day', 'member', {
    query: v.strictObject({ on: dayText }),
    answer: registerView,
  }),
  portfolio: endpoint(
    'get',
    '/api/portfolio',
    'Every instrument over months, quarters or fiscal years, for one measure',
    'member',
    {
      query: portfolioQuery,
      long: true,
      answer: portfolioView,
    },
  ),
  tryPortfolio: endpoint(
    'post',
    '/api/portfolio/tried',
    'Some instruments over the periods of a portfolio, with changes that are only tried',
    'member',
    {
      body: v.strictObject({ asked: portfolioQuery, on: dayText, changes: scenarioChanges }),
      changes: false,
      long: true,
      answer: triedPortfolioView,
    },
  ),
  triedPortfolioFile: endpoint(
    'post',
    '/api/portfolio/tried-file',
    'Every instrument over the periods of a portfolio as a file, some with the changes of a scenario',
    'member',
    {
      body: v.strictObject({
        asked: portfolioQuery,
        on: dayText,
        scenario: shortText,
        changes: scenarioChanges,
        as: v.picklist(['csv', 'xlsx', 'pdf']),
      }),
      changes: false,
      long: true,
      answer: fileAnswer,
    },
  ),
  scenarios: endpoint('get', '/api/scenarios', 'Every kept scenario, by name', 'member', {
    answer: v.strictObject({ scenarios: v.array(scenarioView) }),
  }),
  keepScenario: endpoint('post', '/api/scenarios', 'Keep a scenario', proposing, {
    body: scenarioBody,
    answer: scenarioView,
    idempotent: true,
  }),
  changeScenario: endpoint(
    'put',
    '/api/scenarios/:id',
    'Replace the name and the changes of a scenario; refused when the revision is not the newest',
    proposing,
    {
      params: ofScenario,
      body: v.strictObject({ revision: version, ...scenarioBody.entries }),
      answer: scenarioView,
    },
  ),
  dropScenario: endpoint('delete', '/api/scenarios/:id', 'Take a scenario away', proposing, {
    params: ofScenario,
    query: v.strictObject({ revision: wholeNumber }),
    answer: v.strictObject({ id: scenarioId }),
  }),
  adoptScenario: endpoint(
    'post',
    '/api/scenarios/:id/terms',
    'Make a scenario the terms: a new version of every instrument that it changes, all or none; the scenario ends',
    preparing,
    {
      params: ofScenario,
      body: v.strictObject({ revision: version, reason: reasonText, confirm }),
      long: true,
      answer: v.strictObject({ saved: v.array(saved) }),
      idempotent: true,
    },
  ),
  sideBySide: endpoint(
    'post',
    '/api/scenarios/side-by-side',
    'What is to come of all instruments, as they are and under some scenarios',
    'member',
    {
      body: v.strictObject({
        on: dayText,
        scenarios: v.pipe(v.array(scenarioChanges), v.maxLength(12, 'expected at most 12 scenarios.')),
      }),
      changes: false,
      long: true,
      answer: sideBySideView,
    },
  ),
  createInstrument: endpoint(
    'post',
    '/api/instruments',
    'Take on an instrument from its document',
    preparing,
    { body: v.strictObject({ document: v.unknown(), confirm }), answer: saved, idempotent: true },
  ),
  takeOnMany: endpoint(
    'post',
    '/api/instruments/many',
    'Take on many instruments from their documents: all of them, or none when one is refused',
    preparing,
    {
      body: v.strictObject({
        documents: v.pipe(
          v.array(v.unknown()),
          v.minLength(1, 'expected at least one document.'),
          v.maxLength(mostAtOnce, 'expected at most 5,000 documents at once.'),
        ),
        confirm,
      }),
      long: true,
      answer: v.strictObject({ instruments: v.number() }),
      idempotent: true,
    },
  ),
  takenOnSoFar: endpoint(
    'get',
    '/api/instruments/many/:key',
    'How far taking on many has come, by the key that it was sent with',
    preparing,
    {
      params: v.strictObject({ key: v.pipe(v.string(), v.uuid('expected a key.')) }),
      answer: v.strictObject({ done: v.number(), of: v.number() }),
    },
  ),
  documents: endpoint(
    'post',
    '/api/instruments/documents',
    'The newest documents of some instruments, to work something out of them',
    'member',
    {
      body: v.strictObject({
        ids: v.pipe(v.array(instrumentId), v.maxLength(1000, 'expected at most 1,000 instruments.')),
      }),
      changes: false,
      answer: v.strictObject({
        instruments: v.array(
          v.strictObject({
            id: instrumentId,
            version: v.number(),
            document: v.looseObject({ document: v.string(), name: v.string() }),
          }),
        ),
      }),
    },
  ),
  instrument: endpoint('get', '/api/instruments/:id', 'An instrument with its history', 'member', {
    params: ofInstrument,
    /** Another version than the newest. */
    query: v.strictObject({ version: v.optional(wholeNumber) }),
    answer: instrumentView,
  }),
  changeInstrument: endpoint(
    'put',
    '/api/instruments/:id',
    'Replace the terms of an instrument by a new version; refused when the version is not the newest',
    preparing,
    {
      params: ofInstrument,
      body: v.strictObject({ version, document: v.unknown(), reason: reasonText, confirm }),
      answer: saved,
    },
  ),
  withdrawInstrument: endpoint(
    'post',
    '/api/instruments/:id/withdrawal',
    'Withdraw an instrument taken on by mistake: its entries are taken back in the open month, its history stays',
    preparing,
    {
      params: ofInstrument,
      body: v.strictObject({ version, reason: reasonText }),
      answer: v.strictObject({ id: instrumentId }),
    },
  ),
  duePayments: endpoint(
    'get',
    '/api/payments',
    'What falls due in the open month, recorded or not',
    'member',
    {
      answer: duePaymentsView,
    },
  ),
  recordPayments: endpoint(
    'post',
    '/api/payments',
    'Record what was paid for payments that fell due: all of them, or none when one is refused',
    preparing,
    {
      body: v.strictObject({
        payments: v.pipe(
          v.array(paymentMade),
          v.minLength(1, 'expected at least one payment.'),
          v.maxLength(20_000, 'expected at most 20,000 payments at once.'),
        ),
        confirm,
      }),
      long: true,
      answer: v.strictObject({ payments: v.number(), instruments: v.number() }),
      idempotent: true,
    },
  ),
  takeBackPayments: endpoint(
    'post',
    '/api/payments/taken-back',
    'Take back all that was recorded for payments: all of them, or none when one is refused',
    preparing,
    {
      body: v.strictObject({
        payments: v.pipe(
          v.array(paymentTakenBack),
          v.minLength(1, 'expected at least one payment.'),
          v.maxLength(20_000, 'expected at most 20,000 payments at once.'),
        ),
        reason: reasonText,
        confirm,
      }),
      long: true,
      answer: v.strictObject({ payments: v.number(), instruments: v.number() }),
      idempotent: true,
    },
  ),
  ...closeEndpoints,
  ...correctionEndpoints,
  ...trailEndpoints,
  journal: endpoint('get', '/api/journal', 'Posted entries by date, at most 500 at a time', 'member', {
    query: journalQuery,
    answer: v.strictObject({
      entries: v.array(entryView),
      /** Of all entries in the span. */
      count: v.number(),
      debits: minorUnits,
      credits: minorUnits,
      /** The number to ask after for the rest; null when these are the last. */
      next: v.nullable(v.number()),
    }),
  }),
} as const;
