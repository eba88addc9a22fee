import { planWork, type PlanQuestion } from './plan-work';

/** The newest question: a plan that is no longer wanted stops after the horizon it is at. */
let newest = 0;

addEventListener('message', ({ data }: MessageEvent<PlanQuestion>) => {
  newest = data.number;
  const answers = planWork(data);
  const next = (): void => {
    // Some horizons at a time; between them a newer question gets its turn.
    const until = performance.now() + 40;
    while (performance.now() < until) {
      if (newest !== data.number) return;
      const step = answers.next();
      if (step.done === true) return;
      const { value } = step;
      // How far it has come is only told of the last of them.
      if (value.kind !== 'progress' || performance.now() >= until || value.done === value.of)
        postMessage(value);
    }
    setTimeout(next);
  };
  next();
});
