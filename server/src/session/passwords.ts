import { hash, verify } from '@node-rs/argon2';
import { passwordStrength } from '@coffer/contract/password';
import { faultyInput } from '../http/refusal.ts';

/** Argon2id (the library's own choice) with the parameters that OWASP's Password Storage Cheat Sheet names first: 19 MiB, 2 passes. */
const parameters = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** A hash to store in place of a password. */
export function hashPassword(password: string): Promise<string> {
  return hash(password, parameters);
}

let decoy: Promise<string> | undefined;

/** Whether a password fits a stored hash; without one it takes as long, so that time tells nothing. */
export async function passwordFits(stored: string | undefined, password: string): Promise<boolean> {
  decoy ??= hashPassword('no one has this password');
  const fits = await verify(stored ?? (await decoy), password);
  return fits && stored !== undefined;
}

/** Passwords that the demo company's people have in every copy of Coffer. */
const printed = ['molten-sand-1450', 'clear-lens-0730', 'kiln-door-2210', 'pale-cullet-318'];

/**
 * Refuses a password that anybody would try. Source: OWASP ASVS 5.0, 6.2.4 and 6.2.11.
 *
 * @param key where it was typed
 * @param names what others know of the person
 * @throws Refusal 422 with what to do
 */
export function refuseCommon(key: string, password: string, names: readonly string[]): void {
  if (printed.includes(password.toLowerCase())) {
    throw faultyInput([
      { key, message: 'This is a password of the demo, printed in every copy. Choose your own.' },
    ]);
  }
  if (!passwordStrength(password, names).common) return;
  throw faultyInput([
    {
      key,
      message: 'Among the first that anybody would try: a name, a run, or a common password. Choose another.',
    },
  ]);
}
