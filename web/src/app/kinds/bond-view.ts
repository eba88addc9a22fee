import { lastCouponRow, type BondSchedule } from '@coffer/core';
import type { BondDocument } from '@coffer/contract';
import { bondScheduleModel } from '../instrument/schedule/bond-schedule-model';
import { bondStretchRows } from '../instrument/stretches/stretch-rows';
import { bondFormKind } from '../terms/form/bond-form-kind';
import { bondPreview } from '../terms/preview/bond-preview';
import type { ViewKind } from './view-kind';

/** Bonds on the pages. */
export const bondView: ViewKind<BondDocument, BondSchedule> = {
  tabs: ['redeem', 'methods', 'fund'],
  words: { lender: 'Held by', owed: 'Face', accrued: 'Accrued coupon' },
  carriedApart: true,
  accrues: ({ terms }) => !terms.zeroCoupon,
  costsDeferred: () => false,
  overpays: () => false,
  dueLast: (schedule) => lastCouponRow(schedule)?.faceAfter ?? schedule.terms.face,
  model: bondScheduleModel,
  stretchRows: bondStretchRows,
  timeline: () => undefined,
  form: bondFormKind,
  preview: bondPreview,
};
