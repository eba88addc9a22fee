import { setTimeout } from 'node:timers/promises';
import type { Caller } from '../test-server.ts';
import type { Seen } from './works/work.ts';

/** What somebody else was answered while something befell the work of another. */
export class Onlooker {
  private readonly answers = new Set<string>();
  private readonly wrong: string[] = [];
  private looking = true;
  private readonly ended: Promise<void>;

  constructor(
    private readonly by: Caller,
    private readonly at: Seen,
  ) {
    this.ended = this.look();
  }

  private async look(): Promise<void> {
    while (this.looking) {
      try {
        const { status, text, body } = await this.by.call('GET', this.at.path);
        if (status === 200) this.answers.add(stateOf(body, this.at));
        // What cannot be answered says so in words, and blames nobody for it.
        else if (status < 500 || typeof body?.error?.message !== 'string')
          this.wrong.push(`${status} ${text}`);
      } catch (error) {
        // The server, or what it was about to say, is gone.
        if (!(error instanceof TypeError || error instanceof SyntaxError)) throw error;
      }
      await setTimeout(15);
    }
  }

  /**
   * Looks no more; gives what was wrong in what it was answered: a refusal, or a state that is neither the one before nor
   * the one after.
   *
   * @param states the answers in the states that there were
   */
  async end(states: readonly string[]): Promise<string[]> {
    this.looking = false;
    await this.ended;
    const between = [...this.answers].filter((answer) => !states.includes(answer));
    return [...this.wrong, ...between.map((answer) => `A state between: ${answer.slice(0, 2000)}`)];
  }
}

/** What is answered at this moment. */
export async function stateNow(by: Caller, at: Seen): Promise<string> {
  return stateOf((await by.call('GET', at.path)).body, at);
}

const stateOf = (body: Record<string, unknown>, { part, but = [] }: Seen): string =>
  JSON.stringify(part === undefined ? body : body[part], (key, value: unknown) =>
    but.includes(key) ? undefined : value,
  );
