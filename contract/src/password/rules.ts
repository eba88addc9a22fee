import * as v from 'valibot';

/** The least length of a password. Source: OWASP ASVS 5.0, 6.2.1 and 6.2.9. */
export const leastPassword = 12;
/** The most that a password may have, so that nobody has the server hash books. */
export const mostPassword = 200;

/** A password that is chosen: any characters, as typed, none cut off or changed. */
export const newPassword = v.pipe(
  v.string(),
  v.check((text) => [...text].length >= leastPassword, `expected at least ${leastPassword} characters.`),
  v.maxLength(mostPassword, `expected at most ${mostPassword} characters.`),
);

/** A password that is tried. */
export const triedPassword = v.pipe(
  v.string(),
  v.minLength(1, 'expected a password.'),
  v.maxLength(mostPassword, `expected at most ${mostPassword} characters.`),
);
