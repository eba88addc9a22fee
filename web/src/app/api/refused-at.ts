import { ApiRefusal } from './api-client';
import { messageOf } from './message-of';

/** Where a call was refused: the message of each field; and for the whole, where no field is named, why. */
export function refusedAt(error: unknown): {
  readonly fields: Readonly<Record<string, string>>;
  readonly whole: string;
} {
  const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
  return {
    fields: Object.fromEntries(faults.map(({ key, message }) => [key, message])),
    whole: faults.length === 0 ? messageOf(error) : '',
  };
}
