import { defineConfig } from 'vitest/config';
import { fileURLToPath } from 'node:url';

/**
 * The long trials of `npm run ordeal`: one after the other, since they measure themselves against the clock of other
 * programs.
 */
export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['ordeal/**/*.ordeal.ts'],
    testTimeout: 900_000,
    hookTimeout: 120_000,
    environment: 'node',
    fileParallelism: false,
  },
});
