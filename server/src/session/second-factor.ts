import { createCipheriv, createDecipheriv, createHash, hkdfSync, randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { Secret, TOTP } from 'otpauth';
import { Refusal } from '../http/refusal.ts';

/** Seconds that a code holds, and steps before and after the present one that are taken. Source: RFC 6238, 5.2 and 6. */
const stepSeconds = 30;
const takenSteps = 1;
/** Steps within which a wrong clock is recognised, and told of. */
const seenSteps = 4;
const manyRecoveryCodes = 10;

/** Wrong codes in a row after which nothing is waited for yet; from then on the wait doubles, from and to so many seconds. */
const freeMistakes = 2;
const firstWait = 5;
const longestWait = 15 * 60;

const noneWrong = { wrong_in_row: 0, wait_until: null, wrong_since: 0 } as const;

/** How a code was judged that fits. */
export interface Judged {
  readonly way: 'time' | 'recovery';
  /** Wrong codes that were typed since the last log-in. */
  readonly wrongSince: number;
}

/** A time code of a person, as RFC 6238 has it with SHA-1, six digits and thirty seconds: what every program reads. */
export function timeCode(secret: string, logIn: string): TOTP {
  return new TOTP({
    issuer: 'Coffer',
    label: logIn,
    algorithm: 'SHA1',
    digits: 6,
    period: stepSeconds,
    secret: Secret.fromBase32(secret),
  });
}

/** Keeps and judges second factors; secrets are encrypted with a key that follows from the installation's secret. */
export class SecondFactors {
  private readonly key: Buffer;

  constructor(
    installationSecret: string,
    private readonly now: () => number = () => Date.now(),
  ) {
    this.key = Buffer.from(hkdfSync('sha256', installationSecret, '', 'second factor', 32));
  }

  private seal(secret: string): Buffer {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce);
    const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
  }

  private open(sealed: Buffer): string {
    const cipher = createDecipheriv('aes-256-gcm', this.key, sealed.subarray(0, 12));
    cipher.setAuthTag(sealed.subarray(12, 28));
    return cipher.update(sealed.subarray(28)).toString('utf8') + cipher.final('utf8');
  }

  /** Whether a sealed secret is one of this installation. */
  opens(sealed: Buffer): boolean {
    try {
      this.open(sealed);
      return true;
    } catch {
      return false;
    }
  }

  /** A fresh secret that waits for its first code. Throws {@link Refusal} 409 where a factor is on already. */
  async begin(
    database: Knex,
    person: { readonly id: number; readonly logIn: string },
  ): Promise<{
    secret: string;
    address: string;
  }> {
    const secret = new Secret({ size: 20 }).base32;
    const kept = await database('second_factor')
      .insert({ person_id: person.id, secret: this.seal(secret), since: null, last_step: 0, ...noneWrong })
      .onConflict('person_id')
      .merge()
      .where('second_factor.since', null)
      .returning('person_id');
    if (kept.length === 0) {
      throw new Refusal(
        409,
        'second-factor-on',
        'A second factor is on. Turn it off first to set up another.',
      );
    }
    return { secret, address: timeCode(secret, person.logIn).toString() };
  }

  /** Turns a waiting factor on by its first code; gives fresh recovery codes. Throws {@link Refusal}. */
  async confirm(
    database: Knex,
    person: { readonly id: number; readonly logIn: string },
    code: string,
  ): Promise<string[]> {
    const row = await database('second_factor').where({ person_id: person.id, since: null }).first();
    if (!row) {
      throw new Refusal(409, 'no-second-factor', 'No second factor waits for its first code. Begin anew.');
    }
    await this.judgeTimeCode(database, person, code);
    await database('second_factor').where({ person_id: person.id }).update({ since: new Date() });
    const codes = Array.from({ length: manyRecoveryCodes }, () => new Secret({ size: 15 }).base32);
    await database('recovery_code').where({ person_id: person.id }).delete();
    await database('recovery_code').insert(
      codes.map((each) => ({ person_id: person.id, hash: hashOf(each), used_at: null })),
    );
    return codes.map((each) => (each.match(/.{4}/g) ?? []).join('-'));
  }

  /** Whether a person has one that is on. */
  async isOn(database: Knex, personId: number): Promise<boolean> {
    const row = await database('second_factor').where({ person_id: personId }).whereNotNull('since').first();
    return row !== undefined;
  }

  /**
   * Judges a code of time or of recovery; each counts once. Wrong ones in a row make the next one wait longer, whoever
   * typed them. Not to be called in a transaction: what was counted stays. Throws {@link Refusal} 401, and 429 while it is
   * waited for.
   */
  async judge(
    database: Knex,
    person: { readonly id: number; readonly logIn: string },
    code: string,
  ): Promise<Judged> {
    const of = { person_id: person.id };
    const row = await database('second_factor').where(of).first();
    refuseWhileWaited(row?.wait_until ?? null, this.now());
    try {
      const way = await this.judgeEither(database, person, code);
      await database('second_factor').where(of).update({ wrong_in_row: 0, wait_until: null });
      return { way, wrongSince: row?.wrong_since ?? 0 };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const inRow = (row?.wrong_in_row ?? 0) + 1;
      const seconds = waitAfter(inRow);
      await database('second_factor')
        .where(of)
        .update({
          wrong_in_row: inRow,
          wrong_since: (row?.wrong_since ?? 0) + 1,
          wait_until: seconds === 0 ? null : new Date(this.now() + seconds * 1000),
        });
      throw error;
    }
  }

  /** Told of, or turned off: wrong codes of before count no more. */
  async forgetWrongCodes(database: Knex, personId: number): Promise<void> {
    await database('second_factor').where({ person_id: personId }).update({ wrong_since: 0 });
  }

  private async judgeEither(
    database: Knex,
    person: { readonly id: number; readonly logIn: string },
    code: string,
  ): Promise<Judged['way']> {
    if (/^\d{6}$/.test(code)) {
      await this.judgeTimeCode(database, person, code);
      return 'time';
    }
    const used = await database('recovery_code')
      .where({ person_id: person.id, hash: hashOf(code), used_at: null })
      .update({ used_at: new Date() });
    if (used === 0) throw wrongCode('This is no recovery code of yours, or it was used before.');
    return 'recovery';
  }

  private async judgeTimeCode(
    database: Knex,
    person: { readonly id: number; readonly logIn: string },
    code: string,
  ): Promise<void> {
    const row = await database('second_factor').where({ person_id: person.id }).first();
    const timestamp = this.now();
    const off = row
      ? timeCode(this.open(row.secret), person.logIn).validate({ token: code, window: seenSteps, timestamp })
      : null;
    if (off === null) throw wrongCode('The code does not fit. Type the six digits that show now.');
    if (Math.abs(off) > takenSteps) {
      throw wrongCode(
        `The code fits a clock that is about ${Math.abs(off) * stepSeconds} seconds ${off > 0 ? 'ahead' : 'behind'}. Set the clock of the device that makes the codes, and type the next one.`,
      );
    }
    const step = Math.floor(timestamp / 1000 / stepSeconds) + off;
    // RFC 6238, 5.2: a code that was accepted is not accepted again. One of a time to come was accepted by a clock that has
    // been put back since, and is none that could be seen now.
    const fresh = await database('second_factor')
      .where({ person_id: person.id })
      .andWhereRaw('(last_step < ? or last_step > ?)', [step, step + 2 * seenSteps])
      .update({ last_step: step });
    if (fresh === 0) throw wrongCode('This code was used. Wait for the next one.');
  }
}

/** Says whether second factors cannot be opened with an installation's secret: it is another one's then. */
export async function wrongSecret(database: Knex, installationSecret: string): Promise<string[]> {
  const factors = new SecondFactors(installationSecret);
  const kept = await database('second_factor').select('secret');
  const shut = kept.filter(({ secret }) => !factors.opens(secret)).length;
  return shut === 0
    ? []
    : [
        `The secret of this installation opens ${shut === kept.length ? 'none' : 'not all'} of the ${kept.length} second factors: it is not the one that they were sealed with.`,
      ];
}

/** Gives a person's second factor and recovery codes up. */
export async function dropFactor(database: Knex, personId: number): Promise<void> {
  await database('recovery_code').where({ person_id: personId }).delete();
  await database('second_factor').where({ person_id: personId }).delete();
}

/** Recovery codes have 120 bits by chance, so that a plain hash keeps them. Source: OWASP ASVS 5.0, 6.5.2. */
function hashOf(code: string): Buffer {
  return createHash('sha256').update(`recovery code ${code}`).digest();
}

/** Seconds that are waited after so many wrong codes in a row. */
function waitAfter(inRow: number): number {
  return inRow <= freeMistakes ? 0 : Math.min(longestWait, firstWait * 2 ** (inRow - freeMistakes - 1));
}

function refuseWhileWaited(until: Date | null, now: number): void {
  const seconds = Math.ceil(((until?.getTime() ?? 0) - now) / 1000);
  // No wait is that long: the clock was put back meanwhile.
  if (seconds <= 0 || seconds > longestWait) return;
  const message = `Wrong codes were typed one after another. Wait ${seconds} seconds, then type the code that shows.`;
  throw new Refusal(429, 'wait-for-code', message, [{ key: 'code', message }], undefined, seconds);
}

function wrongCode(message: string): Refusal {
  return new Refusal(401, 'wrong-code', message, [{ key: 'code', message }]);
}
