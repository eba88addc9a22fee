import { calendarDay, type CalendarDay } from '../calendar-day.ts';

/**
 * Easter Sunday of a year in the Gregorian calendar. Source: the anonymous algorithm printed by Meeus,
 * Astronomical Algorithms, chapter 8 (from memory; checked against ecclesiastical tables).
 */
export function easterSunday(year: number): CalendarDay {
  const golden = year % 19;
  const century = Math.floor(year / 100);
  const yearOfCentury = year % 100;
  const correction = Math.floor((8 * century + 13) / 25);
  const epact = (19 * golden + century - Math.floor(century / 4) - correction + 15) % 30;
  const weekday =
    (32 + 2 * (century % 4) + 2 * Math.floor(yearOfCentury / 4) - epact - (yearOfCentury % 4)) % 7;
  const late = Math.floor((golden + 11 * epact + 22 * weekday) / 451);
  const sum = epact + weekday - 7 * late + 114;
  return calendarDay(year, Math.floor(sum / 31), (sum % 31) + 1);
}
