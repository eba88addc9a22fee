import { hash, verify } from '@node-rs/argon2';

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
