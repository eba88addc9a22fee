import type { Schedule } from '@coffer/core';
import { documentKindOf } from '../kinds/document-kinds.ts';
import type { Fact } from './fact.ts';

/** What an issue came to; empty where there is nothing to tell. */
export function issueFacts(schedule: Schedule): Fact[] {
  return documentKindOf(schedule).issue(schedule);
}
