import { defineConfig } from 'vitest/config';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'tests/**/*.test.ts'], testTimeout: 600_000, hookTimeout: 120_000, environment: 'node',
    // By itself one core would be left idle, on a machine of two that is half of it.
    maxWorkers: availableParallelism(),
  },
});
