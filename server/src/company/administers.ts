import { Refusal } from '../http/refusal.ts';
import type { Visitor } from '../session/who-calls.ts';

/** Companies come from who administers one here. Throws {@link Refusal} 403. */
export function refuseUnlessAdministering({ memberships }: Visitor): void {
  if (memberships.some(({ role }) => role.includes('administer'))) return;
  throw new Refusal(
    403,
    'not-allowed',
    'Only who administers a company here makes or brings another. Ask an administrator.',
  );
}
