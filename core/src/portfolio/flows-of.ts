import { fact } from '../facts/facts.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import type { Flow } from './flow.ts';

/**
 * What was borrowed and what each row moves, in order of the day; worked out once for a schedule.
 *
 * @example
 * flowsOf(loan).length // 13
 */
export const flowsOf = fact((schedule: Schedule): readonly Flow[] => debtKindOf(schedule).flows(schedule));
