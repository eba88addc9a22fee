export { explainBondFigure, explainDiscountAtIssue, type BondFigure } from './explain-bond.ts';
export { explainFundAndDebt, explainFundFigure, explainNetDebt, type FundFigure } from './explain-fund.ts';
export { explainLoanFigure, type LoanFigure } from './explain-loan.ts';
export * from './explain-position.ts';
export * from './explain-total.ts';
export * from './explanation.ts';
