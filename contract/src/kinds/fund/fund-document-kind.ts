import { fundPosition, type FundSchedule } from '@coffer/core';
import { onPaper } from '../../document/schedule-column.ts';
import { fundScheduleColumns } from './fund-schedule-columns.ts';
import type { AnyDocumentKind } from '../document-kind.ts';
import type { FundDocument } from './fund-document.ts';
import { fundPositionJson, fundScheduleJson } from './fund-schedule-json.ts';
import { fundTermsOf } from './fund-terms-of.ts';

/** Documents of sinking funds. */
export const fundDocumentKind: AnyDocumentKind<FundDocument, FundSchedule> = {
  termsOf: fundTermsOf,
  keys: {},
  unmatched: () => [],
  json: fundScheduleJson,
  columns: (schedule) => onPaper(fundScheduleColumns(schedule)),
  positionJson: (schedule, on, debt) => fundPositionJson(schedule, fundPosition(schedule, on), debt),
};
