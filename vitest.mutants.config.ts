import { fileURLToPath } from 'node:url';
import { configDefaults, defineConfig } from 'vitest/config';

/** Folders whose tests are run. */
const near = (process.env.MUTANTS_NEAR ?? 'src').split(',');

/**
 * Tests beside what is changed, for `npm run mutants`: those of other folders take long to reach one changed line, and
 * those that take long themselves or start processes of their own say little about it.
 */
export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    testTimeout: 60_000,
    environment: 'node',
    include: near.map((folder) => `${folder}/**/*.test.ts`),
    exclude: [
      ...configDefaults.exclude,
      'src/worker/**',
      'src/core/archives/formats.test.ts',
      'src/core/archives/hostileFormats.test.ts',
      'src/core/deploy/large.test.ts',
      'src/bridge/ownThread.test.ts',
      'src/bridge/vaultLock.test.ts',
    ],
  },
});
