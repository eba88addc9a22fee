import { formatDay, fundPosition, type FundSchedule } from '@coffer/core';
import { onPaper } from '../../document/schedule-column.ts';
import { fundScheduleColumns } from './fund-schedule-columns.ts';
import type { AnyDocumentKind } from '../document-kind.ts';
import type { Fault } from '../../faults/fault.ts';
import type { FundDocument } from './fund-document.ts';
import {
  fundPositionJson,
  fundPositionSchema,
  fundScheduleJson,
  fundScheduleSchema,
} from './fund-schedule-json.ts';
import { fundTermsOf } from './fund-terms-of.ts';

/** Deposits recorded for days on which none falls due. */
function unmatchedDeposits({ terms, rows }: FundSchedule): Fault[] {
  const agreed = new Set(rows.map((row) => row.agreed));
  return (terms.made ?? []).flatMap(({ due }, at) => {
    if (agreed.has(due)) return [];
    const message = `No deposit falls due on ${formatDay(due)}. Say which it was made for, or take it back.`;
    return [{ key: `events.${at}.due`, message }];
  });
}

/** Documents of sinking funds. */
export const fundDocumentKind: AnyDocumentKind<FundDocument, FundSchedule> = {
  termsOf: fundTermsOf,
  keys: {},
  unmatched: unmatchedDeposits,
  published: { schedule: fundScheduleSchema, position: fundPositionSchema },
  json: fundScheduleJson,
  columns: (schedule) => onPaper(fundScheduleColumns, { schedule, debt: undefined }),
  positionJson: (schedule, on, debt) => fundPositionJson(schedule, fundPosition(schedule, on), debt),
};
