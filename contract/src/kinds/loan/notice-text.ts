import {
  formatAmount,
  formatDay,
  type LoanNotice,
  type LoanSchedule,
  type MinorUnits,
  missingFixingText,
} from '@coffer/core';

/** What a notice says, in a sentence. */
export function noticeText({ terms }: LoanSchedule, notice: LoanNotice): string {
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const on = formatDay(notice.on);
  switch (notice.kind) {
    case 'extra-cut':
      return `The extra payment of ${money(notice.stated)} on ${on} is more than is owed; ${money(notice.applied)} is taken.`;
    case 'overpaid':
      return `The payment of ${money(notice.stated)} on ${on} is ${money(notice.stated - notice.applied)} more than is owed: that stands apart until it comes back or settles a later payment.`;
    case 'event-without-effect':
      return `The event of ${on} changes nothing: nothing is owed then.`;
    case 'listed-payment-differs':
      return `The last payment, on ${on}, is listed as ${money(notice.stated)} and is ${money(notice.applied)}, what is then owed.`;
    case 'last-payment-large':
      return `The last payment, ${money(notice.applied)} on ${on}, is more than twice the regular ${money(notice.stated)}: those do not repay the loan.`;
    case 'gap':
      return `No payment is agreed before the listed one of ${on} for longer than a regular period; interest runs on until then.`;
    case 'fixing-missing':
      return terms.index ? missingFixingText(terms.index, notice.on) : '';
    case 'left-at-end':
      return `${money(notice.stated)} is left after the last payment, ${on}, for renewal.`;
    case 'overdue-at-end':
      return `${money(notice.stated)} is still owed after the last payment, ${on}; record when it is paid.`;
  }
}
