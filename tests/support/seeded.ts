import fc from 'fast-check';

/*
 * The same cases in each run: what fails in one fails in the next, here and on any other machine. Other cases by
 * another number: SEED=7 npx vitest run.
 */
fc.configureGlobal({ seed: Number(process.env.SEED ?? 1) });
