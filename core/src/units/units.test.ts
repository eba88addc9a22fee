import { describe, expectTypeOf, it } from 'vitest';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Count, MinorUnits } from './units.ts';

// Held where types are checked; a run of this file alone does not see them fail.
describe('a number of a unit', () => {
  it('is taken for no number of another unit', () => {
    expectTypeOf<CalendarDay>().not.toExtend<MinorUnits>();
    expectTypeOf<CalendarDay>().not.toExtend<Count>();
    expectTypeOf<MinorUnits>().not.toExtend<CalendarDay>();
    expectTypeOf<MinorUnits>().not.toExtend<Count>();
    expectTypeOf<Count>().not.toExtend<CalendarDay>();
    expectTypeOf<Count>().not.toExtend<MinorUnits>();
  });

  it('is a number, and a plain one may stand for it', () => {
    expectTypeOf<MinorUnits>().toExtend<number>();
    expectTypeOf<number>().toExtend<CalendarDay>();
    expectTypeOf<number>().toExtend<MinorUnits>();
    expectTypeOf<number>().toExtend<Count>();
  });
});
