/**
 * The figures of a position of something owed, in the order they are told, by what they are called: what is published,
 * shown and kept of a closed month is made of this list.
 */
export const debtFigures = {
  outstanding: 'Outstanding',
  accruedInterest: 'Accrued interest',
  /** Fee on the unused part of a credit line, accrued and not yet billed. */
  accruedFee: 'Accrued fee',
  unpaidInterest: 'Interest unpaid or deferred',
  /** Of that what was kept apart by agreement, and is not due yet. */
  deferredInterest: 'of it deferred',
  unamortizedDiscount: 'Unamortized discount',
  unamortizedPremium: 'Unamortized premium',
  unamortizedIssueCosts: 'Unamortized issue costs',
  /** Costs of a credit line not yet amortized, an asset of their own. */
  deferredCosts: 'Deferred costs',
  overpaid: 'Overpaid',
  carrying: 'Carrying amount',
  current: 'Current portion',
  nonCurrent: 'Non-current',
} as const;

export type DebtFigure = keyof typeof debtFigures;

/** Their names in code. */
export const debtFigureKeys = Object.keys(debtFigures) as [DebtFigure, ...DebtFigure[]];
