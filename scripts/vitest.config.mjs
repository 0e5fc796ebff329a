import { defineConfig } from 'vitest/config';

const long = process.env.BAUMKIN_LONG === '1';

export default defineConfig({
  test: {
    include: ['test/**/*.test.mjs', ...(long ? ['long/**/*.test.mjs'] : [])],
    fileParallelism: false,
    testTimeout: long ? 600_000 : 120_000,
    hookTimeout: 120_000
  }
});
