import { oneOf, type Draw } from '../../play/drawn.ts';
import type { Place } from '../place.ts';
import { approving, bringingPaper, handingOver, recording, takingOn } from './of-books.ts';
import { backingUp, migrating, restoring, startingTwice } from './of-commands.ts';
import { inviting, settingUp, suspending } from './of-people.ts';
import type { Kind, People, Work } from './work.ts';

/** Kinds of work, and how often each is done among the others. */
const often: readonly (readonly [Kind, number])[] = [
  [takingOn, 4],
  [handingOver, 2],
  [approving, 4],
  [recording, 6],
  [bringingPaper, 3],
  [inviting, 2],
  [suspending, 2],
  [settingUp, 2],
  [backingUp, 2],
  [restoring, 1],
  [migrating, 2],
  [startingTwice, 1],
];
const kinds = often.flatMap(([kind, times]) => Array.from({ length: times }, () => kind));

/** A piece of work as the books are. */
export async function someWork(draw: Draw, place: Place, by: People): Promise<Work> {
  for (;;) {
    const work = await (oneOf(draw, kinds) as Kind)(draw, place, by);
    if (work) return work;
  }
}
