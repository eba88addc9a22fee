import type { CalendarDay } from '../calendar/calendar-day.ts';

/**
 * All that is carried is presented as current, or as non-current, from one day to another, whatever is due when: a
 * breach or a right to call makes it current (IAS 1.74; ASC 470-10-45-11), an agreement to refinance non-current
 * (ASC 470-10-45-14).
 */
export interface Classification {
  readonly type: 'presentation';
  readonly on: CalendarDay;
  /** Last day of it; for good where it has none. */
  readonly to?: CalendarDay;
  readonly as: 'current' | 'non-current';
  readonly reason: string;
}

/** The presentation stated for a day among an instrument's events; the one stated last counts. */
export function classificationOn(
  events: readonly { readonly type: string }[],
  day: CalendarDay,
): Classification | undefined {
  return events
    .filter((event): event is Classification => event.type === 'presentation')
    .filter(({ on, to }) => on <= day && (to === undefined || day <= to))
    .sort((one, other) => one.on - other.on)
    .at(-1);
}
