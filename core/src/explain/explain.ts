export { explainBondFigure, explainDiscountAtIssue } from '../bond/explain/explain-bond.ts';
export { type BondFigure } from '../bond/explain/bond-figure.ts';
export {
  explainFundAndDebt,
  explainFundFigure,
  explainNetDebt,
  type FundFigure,
} from '../fund/explain-fund.ts';
export { explainLoanFigure, type LoanFigure } from '../loan/explain/explain-loan.ts';
export * from './explain-position.ts';
export * from './explain-total.ts';
export * from './explanation.ts';
