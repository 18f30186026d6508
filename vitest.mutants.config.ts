import { mergeConfig } from 'vitest/config';
import base from './vitest.config';

/**
 * Nearby tests, for `npm run mutants`: those that take long or start processes of their own say little about one
 * changed line.
 */
export default mergeConfig(base, {
  test: {
    exclude: [
      'node_modules/**',
      'src/worker/**',
      'tests/**',
      'src/core/archives/formats.test.ts',
      'src/core/deploy/large.test.ts',
      'src/bridge/ownThread.test.ts',
      'src/bridge/vaultLock.test.ts',
    ],
  },
});
