import { tryOut, tryRow } from './try-out';
import type { TryAnswer, TryQuestion } from './tried';

/** The newest question: a grid that is no longer wanted stops after the row it is at. */
let newest = 0;

const answer = (message: TryAnswer): void => postMessage(message);

addEventListener('message', ({ data }: MessageEvent<TryQuestion>) => {
  newest = data.number;
  const { number, document } = data;
  if (data.kind === 'changes') {
    answer({ number, kind: 'changes', tried: data.changes.map((change) => tryOut(document, change)) });
    return;
  }
  const next = (at: number): void => {
    if (newest !== number) return;
    const last = at === data.down.values.length - 1;
    answer({ number, kind: 'row', at, cells: tryRow(document, data, at), last });
    // Between rows a newer question gets its turn.
    if (!last) setTimeout(() => next(at + 1));
  };
  next(0);
});
