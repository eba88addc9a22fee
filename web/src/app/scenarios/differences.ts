import { type MinorUnits, monthsBetween, parseDay } from '@coffer/core';
import { showAmount, showDay, type OutlookView } from '@coffer/contract';

/** By how much an amount is less or more than another, in words: `1,200.00 less`. Minor units. */
export function lessOrMore(minor: MinorUnits, money: (minor: MinorUnits) => string): string {
  if (minor === 0) return 'nothing';
  return `${money(Math.abs(minor))} ${minor < 0 ? 'less' : 'more'}`;
}

/** How much sooner or later a day is than another, in words: `9 years 11 months sooner`. */
export function soonerOrLater(from: number, to: number): string {
  if (from === to) return 'the same day';
  const count = Math.abs(monthsBetween(from, to));
  const [years, months] = [Math.floor(count / 12), count % 12];
  const told = [
    ...(years > 0 ? [`${years} ${years === 1 ? 'year' : 'years'}`] : []),
    ...(months > 0 ? [`${months} ${months === 1 ? 'month' : 'months'}`] : []),
  ];
  const text = told.length > 0 ? told.join(' ') : `${Math.abs(to - from)} days`;
  return `${text} ${to < from ? 'sooner' : 'later'}`;
}

/** What comes of a change: when it is cleared, what interest comes to, and what is left. */
export function outcomeWords(was: OutlookView, now: OutlookView, digits: number): string {
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
  const ends = soonerOrLater(parseDay(was.ends) ?? 0, parseDay(now.ends) ?? 0);
  return [
    `${now.left === 0 ? 'cleared' : 'ends'} ${showDay(now.ends)}, ${ends}`,
    `interest ${lessOrMore(now.interest - was.interest, money)}`,
    ...(now.left > was.left ? [`${money(now.left)} is left unpaid then`] : []),
  ].join(' · ');
}
