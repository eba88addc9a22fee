import { formatDay, formatPercent, lastDay, ratioToNumber, type BondSchedule } from '@coffer/core';
import { highRateWords } from '../loan/loan-surprises.ts';
import { frequencyInWords } from '../../words/frequency.ts';
import { debtPositionJson, debtPositionSchema } from '../debt-position-json.ts';
import { onPaper } from '../../document/schedule-column.ts';
import { bondScheduleColumns } from './bond-schedule-columns.ts';
import type { DocumentKind } from '../document-kind.ts';
import type { BondDocument } from './bond-document.ts';
import { bondEvents, bondFacts } from './bond-facts.ts';
import { bondScheduleJson, bondScheduleSchema } from './bond-schedule-json.ts';
import { bondTermsOf } from './bond-terms-of.ts';
import { redemptionFacts } from './redemption-facts.ts';
import { bondIssueFacts } from './bond-issue-facts.ts';

/** Documents of bonds. */
export const bondDocumentKind: DocumentKind<BondDocument, BondSchedule> = {
  recordsPayments: false,
  termsOf: bondTermsOf,
  keys: {},
  unmatched: () => [],
  published: { schedule: bondScheduleSchema, position: debtPositionSchema },
  json: bondScheduleJson,
  columns: (schedule) => onPaper(bondScheduleColumns, schedule),
  positionJson: debtPositionJson,
  facts: bondFacts,
  events: bondEvents,
  issue: bondIssueFacts,
  notices: () => [],
  headline: redemptionFacts,
  surprises: ({ terms }) =>
    highRateWords(ratioToNumber(terms.couponRate), formatPercent(terms.couponRate), terms.issued),
  varied: () => undefined,
  summary(document, schedule) {
    const { terms } = schedule;
    const every = frequencyInWords(terms.every);
    const serial = terms.instalments.length > 0 ? ', by instalments' : '';
    return {
      class: document.class ?? 'bond',
      pattern: terms.zeroCoupon
        ? `no coupon, yield ${every}${serial}`
        : `coupon ${formatPercent(terms.couponRate)} ${every}${serial}`,
      rate: `${schedule.rates.effective.times(100).toFixed(2)}%`,
      rateNote: terms.method === 'straight-line' ? 'straight-line' : 'effective',
      matures: formatDay(lastDay(schedule)),
      borrowed: terms.face,
    };
  },
};
