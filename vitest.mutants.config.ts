import { fileURLToPath } from 'node:url';
import type { Plugin } from 'vite';
import { configDefaults, defineConfig } from 'vitest/config';

/** Folders whose tests are run. */
const near = (process.env.MUTANTS_NEAR ?? 'src').split(',');

/** A law is tried on so few cases for each mutation, instead of on up to 2,000: the first ones tell. */
const fewerCases: Plugin = {
  name: 'fewer-cases',
  transform: (code, id) =>
    id.endsWith('.test.ts')
      ? code.replace(/numRuns: (\d+)/g, (_, runs: string) => `numRuns: ${Math.min(Number(runs), 25)}`)
      : undefined,
};

/**
 * Tests beside what is changed, for `npm run mutants`: those of other folders take long to reach one changed line, and
 * those that take long themselves or start processes of their own say little about it.
 */
export default defineConfig({
  plugins: [fewerCases],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    testTimeout: 60_000,
    environment: 'node',
    setupFiles: [fileURLToPath(new URL('./tests/support/seeded.ts', import.meta.url))],
    // What keeps nothing between calls shares what is loaded (vitest.config.ts).
    isolate: !near.every((folder) => folder.startsWith('src/core/')),
    include: near.map((folder) => `${folder}/**/*.test.ts`),
    exclude: [
      ...configDefaults.exclude,
      'src/worker/**',
      'src/core/archives/formats.test.ts',
      'src/core/archives/hostileFormats.test.ts',
      'src/core/deploy/large.test.ts',
      'src/bridge/ownMemory.test.ts',
      'src/bridge/vaultLock.test.ts',
    ],
  },
});
