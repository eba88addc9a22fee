import * as v from 'valibot';
import { dayText, shortText, signedRateText, type FetchedView } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';

/** How long the rate service may take, milliseconds. */
const patience = 5000;
/** The most that it may answer with, bytes. */
const mostBytes = 4_000_000;

/** What a rate service answers `GET /fixings` with. */
const answer = v.object({
  indexes: v.pipe(
    v.array(
      v.object({
        name: shortText,
        fixings: v.pipe(v.array(v.object({ on: dayText, rate: signedRateText })), v.maxLength(20_000)),
      }),
    ),
    v.maxLength(200),
  ),
});

type Published = FetchedView['indexes'];

/** Asks the rate service for all that it has published by a day. Throws {@link Refusal} 502 or 409. */
export async function fetchPublished(address: string | undefined, through: string): Promise<Published> {
  if (address === undefined) {
    throw new Refusal(
      409,
      'no-rate-service',
      'This installation has no rate service. Type or paste the fixings, or name a service by COFFER_RATE_SERVICE.',
    );
  }
  const url = new URL('/fixings', address);
  url.searchParams.set('through', through);
  const body = await textOf(url);
  const read = v.safeParse(v.pipe(v.string(), v.parseJson(), answer), body);
  if (read.success) return read.output.indexes;
  throw unusable('answered with what cannot be read as fixings');
}

async function textOf(url: URL): Promise<string> {
  try {
    const response = await fetch(url, { redirect: 'error', signal: AbortSignal.timeout(patience) });
    if (!response.ok) throw unusable(`answered with ${response.status}`);
    return await limited(response);
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw unusable(`at ${url.origin} does not answer`);
  }
}

/** The text of an answer, read no further than it may be long. */
async function limited(response: Response): Promise<string> {
  const reader = response.body?.getReader();
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    bytes += part.value.byteLength;
    if (bytes > mostBytes) throw unusable('answers with more than four megabytes');
    parts.push(part.value);
  }
  return Buffer.concat(parts).toString('utf8');
}

function unusable(why: string): Refusal {
  return new Refusal(
    502,
    'rate-service-silent',
    `The rate service ${why}. Nothing was changed; try again, or type the fixings.`,
  );
}
