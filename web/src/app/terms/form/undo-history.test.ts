import '@angular/compiler';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { UndoHistory } from './undo-history';

type Step = { readonly do: 'type'; readonly text: string } | { readonly do: 'undo' | 'redo' };
const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({ do: fc.constant('type' as const), text: fc.string({ maxLength: 3 }) }),
  fc.record({ do: fc.constantFrom('undo' as const, 'redo' as const) }),
);

it('takes back and makes again as a list of states with a place in it', () => {
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const history = new UndoHistory();
      history.begin({ text: 'begun' });
      let states = ['begun'];
      let at = 0;
      for (const each of steps) {
        if (each.do === 'type') {
          history.note({ text: each.text });
          if (each.text === states[at]) continue;
          states = [...states.slice(0, at + 1), each.text];
          at = states.length - 1;
          continue;
        }
        const to = each.do === 'undo' ? at - 1 : at + 1;
        const made = each.do === 'undo' ? history.undo<{ text: string }>() : history.redo<{ text: string }>();
        expect(made?.text).toBe(states[to]);
        if (states[to] !== undefined) at = to;
        expect([history.canUndo(), history.canRedo()]).toEqual([at > 0, at < states.length - 1]);
      }
    }),
  );
});

it('keeps the last two hundred steps', () => {
  const history = new UndoHistory();
  history.begin(0);
  for (let state = 1; state <= 500; state += 1) history.note(state);
  let taken = 0;
  while (history.canUndo()) {
    history.undo();
    taken += 1;
  }
  expect(taken).toBe(199);
});
