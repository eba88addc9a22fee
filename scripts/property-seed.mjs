// Property tests draw the same terms in every run, so that a change is judged by itself and a failure comes back.
// `./coffer hunt` draws others, by COFFER_SEED; where every change of the core is tested, fewer are drawn, by COFFER_RUNS.
import fc from 'fast-check';

const runs = process.env.COFFER_RUNS;
fc.configureGlobal({
  seed: Number(process.env.COFFER_SEED ?? 20_260_930),
  ...(runs !== undefined && { numRuns: Number(runs) }),
});
