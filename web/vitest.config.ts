import { defineConfig } from 'vitest/config';

import { onServer } from './coreSource.ts';

/** Server tests against a real MariaDB; its address comes in DATABASE_URL. */
export default defineConfig({
  ssr: onServer,
  test: { include: ['test/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000, fileParallelism: false }
});
