import { defineConfig } from 'vitest/config';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';

const common = {
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    testTimeout: 600_000,
    hookTimeout: 120_000,
    environment: 'node' as const,
    setupFiles: [fileURLToPath(new URL('./tests/support/seeded.ts', import.meta.url))],
  },
};

/** What keeps nothing between calls: its tests share what is loaded. */
const PURE = ['src/core/**/*.test.ts', 'tests/games/**/*.test.ts'];

export default defineConfig({
  test: {
    // By itself one core would be left idle, on a machine of two that is half of it.
    maxWorkers: availableParallelism(),
    projects: [
      { ...common, test: { ...common.test, name: 'core', include: PURE, isolate: false } },
      {
        ...common,
        test: { ...common.test, name: 'around it', include: ['src/**/*.test.ts', 'tests/**/*.test.ts'], exclude: PURE },
      },
    ],
  },
});
