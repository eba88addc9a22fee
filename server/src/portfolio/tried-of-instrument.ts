import { BeyondExact, type CalendarDay } from '@coffer/core';
import type { ChangeFaults, TriedRow } from '@coffer/contract';
import { workedOut } from '../instruments/known-instruments.ts';
import { changedOf, type WithChange } from '../scenarios/changed-instrument.ts';
import { outlookOf } from '../scenarios/outlook-view.ts';
import { portfolioRowOf, type PortfolioAsked } from './portfolio-of-instrument.ts';

/** What is asked of every changed instrument. */
export interface TriedAsked extends PortfolioAsked {
  /** The day after which what is to come is told. */
  readonly on: CalendarDay;
}

/** A changed instrument over the periods of a portfolio, or what is wrong with its change. */
export function triedOfInstrument(item: WithChange, asked: TriedAsked): TriedRow | ChangeFaults {
  const { id } = item.version;
  const changed = changedOf(item);
  if (!changed.ok) return { instrumentId: id, name: changed.name, faults: [...changed.faults] };
  const { document, schedule } = changed.instrument;
  const asItIs = workedOut(item.version, (instrument) => outlookOf(instrument.schedule, asked.on));
  const faulty = (message: string): ChangeFaults => ({
    instrumentId: id,
    name: document.name,
    faults: [{ key: '', message }],
  });
  if ('unworkable' in asItIs) return faulty(asItIs.unworkable.message);
  try {
    const row = portfolioRowOf(id, changed.instrument, asked);
    return { ...row, asItIs: asItIs.made, changed: outlookOf(schedule, asked.on) };
  } catch (error) {
    if (!(error instanceof BeyondExact)) throw error;
    return faulty(error.message);
  }
}
