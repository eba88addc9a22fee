import { works, type AskedOf, type ItemOf, type MadeOf, type Share, type WorkName } from './works.ts';

/** Milliseconds of work after which the shares of other calls get their turn. */
const turn = 20;

/**
 * Works through a share from its beginning for as long as a turn lasts, one instrument at least; what is not reached is
 * sent again with the next share.
 */
export default function inTurn<Name extends WorkName>({ work, asked, items }: Share<Name>): MadeOf<Name>[] {
  const run = works[work] as (item: ItemOf<Name>, asked: AskedOf<Name>) => MadeOf<Name>;
  const begun = performance.now();
  const made: MadeOf<Name>[] = [];
  for (const item of items) {
    made.push(run(item, asked));
    if (performance.now() - begun > turn) break;
  }
  return made;
}
