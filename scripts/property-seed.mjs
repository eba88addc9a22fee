// Property tests draw the same terms in every run, so that a change is judged by itself and a failure comes back.
// `./coffer hunt` draws others, by COFFER_SEED.
import fc from 'fast-check';

fc.configureGlobal({ seed: Number(process.env.COFFER_SEED ?? 20_260_930) });
