import * as v from 'valibot';
import { dayText } from '@coffer/contract';

const port = v.pipe(v.string(), v.regex(/^\d{1,5}$/), v.transform(Number), v.maxValue(65_535));

const environment = v.object({
  /** Connection of the database's owner, such as `postgres://coffer:…@127.0.0.1:5433/coffer`. */
  COFFER_DATABASE: v.pipe(v.string(), v.url()),
  /** Where people reach it through a proxy that ends TLS, such as `https://books.example.com`. */
  COFFER_PUBLIC_URL: v.optional(
    v.pipe(
      v.string(),
      v.regex(
        /^https:\/\/[^/?#@\s]+\/?$/,
        'expected an address such as https://books.example.com, with no path.',
      ),
    ),
  ),
  /** Port on the loopback address; 0 takes any that is free. */
  COFFER_PORT: v.optional(port, '4680'),
  /** Signs the session cookies. */
  COFFER_SECRET: v.pipe(v.string(), v.minLength(32)),
  /** Folder of the built web application. */
  COFFER_SITE: v.optional(v.string()),
  /** Folder of a demo company to load into an empty database. */
  COFFER_DEMO: v.optional(v.string()),
  /** The one-time code by which an empty installation is set up. */
  COFFER_SET_UP_CODE: v.optional(v.pipe(v.string(), v.regex(/^[A-Z2-7]{20}$/))),
  /** The day that it is, for tests and demonstrations; without it the machine's. */
  COFFER_TODAY: v.optional(dayText),
  /** Address of the rate service, such as `http://127.0.0.1:4690`. */
  COFFER_RATE_SERVICE: v.optional(v.pipe(v.string(), v.url())),
  COFFER_LOG: v.optional(v.picklist(['info', 'warn', 'silent']), 'info'),
});

export type Configuration = v.InferOutput<typeof environment>;

/** The configuration from the environment. Throws, naming the variable, when it is missing or malformed. */
export function readConfiguration(from: NodeJS.ProcessEnv): Configuration {
  const read = v.safeParse(environment, from);
  if (read.success) return read.output;
  const faults = read.issues.map((issue) => `${String(issue.path?.[0]?.key)}: ${issue.message}`);
  throw new Error(`The environment is incomplete. ${faults.join('; ')}`);
}
