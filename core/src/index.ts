// The public face of the core: what the other parts use of it, and nothing besides.
export { compareMethods, type MethodsOfRow } from './bond/compare/bond-methods.ts';
export { callOn, redemptionOutcome, type RedemptionOutcome } from './bond/compare/redemption-outcome.ts';
export type { BondFigure } from './bond/explain/bond-figure.ts';
export { explainBondFigure, explainDiscountAtIssue } from './bond/explain/explain-bond.ts';
export {
  type BondRow,
  type BondSchedule,
  discountAtIssue,
  discountShare,
  lastCouponRow,
} from './bond/schedule/bond-schedule.ts';
export {
  type AmortizationMethod,
  amortizationMethods,
  type BondTerms,
  couponFrequencies,
  type CouponFrequency,
  type EarlyRedemption,
  type Instalment,
} from './bond/terms/bond-terms.ts';
export {
  type BusinessCalendar,
  businessCalendars,
  type BusinessDayRule,
  businessDayRules,
} from './calendar/business-days/business-days.ts';
export {
  addMonths,
  type CalendarDay,
  calendarDay,
  calendarFields,
  daysInMonth,
  formatDay,
  monthEnd,
  parseDay,
} from './calendar/calendar-day.ts';
export { type DayCountName, dayCountNames, dayCounts } from './calendar/day-counts/day-counts.ts';
export { frequencies, type Frequency, monthsBetweenPayments, paymentsPerYear } from './calendar/frequency.ts';
export type { InterestPeriod } from './calendar/interest-period.ts';
export { monthsBetween } from './calendar/months-between.ts';
export { cycleDate, cycleIndexOnOrAfter } from './calendar/payment-dates.ts';
export { billsThrough, openLineEnds } from './credit-line/credit-line-bills.ts';
export {
  type AccountKind,
  type AccountRole,
  accountKinds,
  accountRoles,
  incomeRoles,
} from './entries/account-role.ts';
export { type AccrualChoice, accrualChoices } from './entries/accruals.ts';
export { balancesOf } from './entries/balances.ts';
export {
  type Accruing,
  type Books,
  booksDiffer,
  booksOff,
  closeEntries,
  correctionsOf,
  type CloseEntries,
  unseen,
  withdrawalEntries,
} from './entries/close-entries.ts';
export { accrualEntry, entries, entriesOnDay, issueEntry } from './entries/entries.ts';
export { type Entry, type EntryKind, entryKinds } from './entries/entry.ts';
export { leftOutOf, type Materiality, type SmallAccrual, smallAccrual } from './entries/materiality.ts';
export { periodLengths } from './entries/period-ends.ts';
export type { Balances } from './entries/standing-balances.ts';
export type { Averages } from './change/interest-basis.ts';
export { moveReasons, type MoveReason } from './change/move.ts';
export {
  changeReasons,
  comparedFigures,
  whyChanged,
  type ChangePart,
  type ChangeReason,
  type ComparedFigure,
  type FigureChange,
  type MonthChange,
} from './change/why-changed.ts';
export { explainPosition } from './explain/explain-position.ts';
export {
  bondTotalOf,
  explainBondTotal,
  explainTotal,
  type TotalledBondColumn,
  type TotalledColumn,
} from './explain/explain-total.ts';
export type { Explanation, FigureLink } from './explain/explanation.ts';
export { BeyondExact } from './faults/beyond-exact.ts';
export { TermsFault } from './faults/terms-fault.ts';
export {
  explainFundAndDebt,
  explainFundFigure,
  explainNetDebt,
  type FundFigure,
} from './fund/explain-fund.ts';
export { balanceDays, fundAndDebt, netDebt } from './fund/fund-and-debt.ts';
export { fundPosition, type FundPosition } from './fund/fund-position.ts';
export { fundProofs } from './fund/fund-proofs.ts';
export {
  fundEnd,
  fundHeld,
  type FundNotice,
  type FundRow,
  type FundSchedule,
  fundTotal,
} from './fund/fund-schedule.ts';
export type { FundTerms } from './fund/fund-terms.ts';
export {
  buildSchedule,
  firstDay,
  lastDay,
  principalOf,
  proofsOf,
  rowCount,
} from './instrument/instrument.ts';
export { overBudget, stepsToWorkOut } from './instrument/work.ts';
export { debtKindOf, isDebt, kindOf } from './kinds/kinds.ts';
export type { AnySchedule, Instrument, Schedule } from './kinds/schedules.ts';
export { mostSteps } from './kinds/work-budget.ts';
export { balanceCurve, loanOutcome, type LoanOutcome } from './loan/compare/loan-outcome.ts';
export type { Rise } from './loan/payment/rise.ts';
export { costAmortization } from './loan/costs/issue-costs.ts';
export { explainLoanFigure, type LoanFigure } from './loan/explain/explain-loan.ts';
export { PeriodGrowths } from './loan/interest/period-growths.ts';
export { evenGrowths, levelPayment } from './loan/payment/level-payment.ts';
export { dueInArrears, type LeftOfDue } from './loan/payment/left-of-dues.ts';
export { unroundedPayment } from './loan/payment/payment-setting.ts';
export { accruedOver } from './loan/position/accrued-over.ts';
export { buildLoanSchedule } from './loan/schedule/build-loan-schedule.ts';
export { type AmountColumn, FillingColumns, type RowKind } from './loan/schedule/loan-columns.ts';
export {
  asksOneAmount,
  lastRowOn,
  type LoanNotice,
  loanRow,
  type LoanRow,
  loanRows,
  type LoanSchedule,
  rowOfDue,
} from './loan/schedule/loan-schedule.ts';
export { fillRegularRows } from './loan/schedule/regular-rows.ts';
export { financeCost, type FinanceCost } from './loan/schedule/finance-cost.ts';
export { paymentsMade, totalDrawn, totalOf } from './loan/schedule/totals.ts';
export type { LoanEvent } from './loan/terms/loan-events.ts';
export { type LoanTerms, type Phase, phaseCount } from './loan/terms/loan-terms.ts';
export { type LoanUnknown, solveUnknown } from './loan/terms/solve-unknown.ts';
export type { Stretch } from './loan/terms/stretch.ts';
export { formatAmount, parseAmount } from './money/amount-text.ts';
export { currencyCodes, currencyDigits } from './money/currency.ts';
export { compareRatios, ratio, type Ratio, ratioFromDecimal, ratioToNumber } from './money/ratio.ts';
export { roundRatio, type Ties } from './money/round-ratio.ts';
export { multiplier, roundedProduct } from './money/rounded-product.ts';
export { minorOf } from './money/rounding.ts';
export { type Bound, type PlannedRow } from './loan/plan/plan-loan.ts';
export { type Contract, contractAfter, type ContractDue } from './loan/plan/contract.ts';
export { budgetMonths, type BudgetMonth } from './plan/budget/budget-months.ts';
export { budgetProofs } from './plan/budget/budget-proofs.ts';
export {
  type BudgetLoan,
  budgetOutcome,
  type BudgetOutcome,
  type BudgetUse,
  contractualYearly,
  isOutcome,
  type NoCommonDay,
} from './plan/budget/budget.ts';
export type { CashMonth, Shortage } from './plan/budget/cash-account.ts';
export { frontier, type Horizon, type Horizons, type Step, stepFrom } from './plan/frontier.ts';
export { incomeNeeded, type IncomeQuestion } from './plan/income-needed.ts';
export type { FundRule } from './plan/plan-fund.ts';
export { planTotals, type PlanTotals, planYears, planProofs, type PlanYear } from './plan/plan-totals.ts';
export {
  byContract,
  isPlanned,
  planFor,
  type PlanMember,
  type PlannedMember,
  type Unreached,
} from './plan/plan.ts';
export { crossings, leastWorth } from './plan/worth-it.ts';
export type { Flow } from './portfolio/flow.ts';
export { flowsOf } from './portfolio/flows-of.ts';
export { type Outlook, outlook, owedToTheEnd } from './portfolio/outlook.ts';
export {
  mostPeriods,
  type PortfolioPeriod,
  portfolioPeriods,
  type PortfolioStep,
  portfolioSteps,
} from './portfolio/portfolio-periods.ts';
export {
  type Movement,
  movementOver,
  movementProof,
  type PortfolioMeasure,
  portfolioMeasures,
  portfolioValues,
} from './portfolio/portfolio.ts';
export { amortizedBetween } from './position/amortized.ts';
export { interestExpense } from './position/interest-expense.ts';
export { maturities, yearsApart } from './position/maturities.ts';
export {
  type Position,
  type PositionFigure,
  positionFigureKeys,
  positionFigures,
} from './position/position-figures.ts';
export { position } from './position/position.ts';
export type { Proof } from './proofs/proof.ts';
export { formatPercent, formatPrice } from './rates/annual-rate.ts';
export { type Compounding, compoundings, compoundingsPerYear } from './rates/compounding.ts';
export { missingFixingText, type RateIndex } from './rates/rate-index.ts';
export { rateAt } from './rates/rate-timeline.ts';
export type { Count, MinorUnits } from './units/units.ts';
