// Where every change of the core is tested, no property draws more often than COFFER_RUNS says, whatever it asks for.
import { vi } from 'vitest';

vi.mock('fast-check', async (original) => {
  const real = await original();
  const most = Number(process.env.COFFER_RUNS ?? 30);
  const assert = (property, params = {}) =>
    real.assert(property, { ...params, numRuns: Math.min(params.numRuns ?? most, most) });
  return { ...real, assert, default: { ...real.default, assert } };
});
