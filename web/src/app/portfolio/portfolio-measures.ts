import type { PortfolioMeasure, PortfolioStep } from '@coffer/core';

/** What a portfolio can be looked at for, in the order it is offered: what flows in a period, then what stands at its end. */
export const measures: Readonly<Record<PortfolioMeasure, string>> = {
  payment: 'Payments',
  principal: 'Principal repaid',
  interest: 'Interest paid',
  expense: 'Interest expense',
  closing: 'Closing balance',
  carrying: 'Carrying amount',
  accrued: 'Accrued interest',
  current: 'Current portion',
};

export const measureChoices = Object.entries(measures);

/** The lengths of a period in words. */
export const stepNames: Readonly<Record<PortfolioStep, string>> = {
  month: 'Month',
  quarter: 'Quarter',
  year: 'Fiscal year',
};
