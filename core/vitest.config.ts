import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    benchmark: { include: ['bench/**/*.bench.ts'] },
    testTimeout: 600_000,
    hookTimeout: 600_000,
    maxWorkers: 2,
    setupFiles: ['../testing/setup.ts']
  }
});
