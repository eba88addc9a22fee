import type { DebtKind } from '../kinds/kind.ts';
import { loanKind } from '../loan/loan-kind.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { endsOnDemand } from '../loan/position/loan-position.ts';

/** Credit lines: drawn and repaid within a limit, billed for interest and for what is not drawn; else as loans. */
export const creditLineKind: DebtKind<LoanTerms, LoanSchedule> = {
  ...loanKind,
  onDemand: endsOnDemand,
  // What is paid beyond a bill could be drawn again.
  contract: () => undefined,
};
