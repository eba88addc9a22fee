import type { Kind } from '../kinds/kind.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { fundAccrual, fundOwnEntries, fundStanding } from './fund-entries.ts';
import { fundStart } from './fund-periods.ts';
import { fundPosition, type FundPosition } from './fund-position.ts';
import { fundProofs } from './fund-proofs.ts';
import { fundEnd, type FundSchedule } from './fund-schedule.ts';
import type { FundTerms } from './fund-terms.ts';

/** Sinking funds: deposits that earn interest until they repay a debt. */
export const fundKind: Kind<FundTerms, FundSchedule, FundPosition> = {
  build: buildFundSchedule,
  proofs: fundProofs,
  firstDay: ({ terms }) => fundStart(terms),
  lastDay: fundEnd,
  rowCount: ({ rows }) => rows.length,
  rowDays: ({ rows }) => rows.map(({ due }) => due),
  position: fundPosition,
  ownEntries: fundOwnEntries,
  accrual: fundAccrual,
  standing: fundStanding,
};
