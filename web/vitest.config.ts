import { fileURLToPath } from 'node:url';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

import { bundledText } from './bundledText.ts';
import { shortOrLong } from '../testing/long.ts';
import { inBrowser, named, onServer } from './coreSource.ts';

/** What runs on the server, against a real MariaDB whose address comes in DATABASE_URL; and what runs on a device. */
const alias = { $lib: fileURLToPath(new URL('./src/lib', import.meta.url)) };

export default defineConfig({
  plugins: [bundledText()],
  define: named,
  test: {
    testTimeout: shortOrLong(240_000, 1_200_000),
    setupFiles: ['../testing/setup.ts'],
    hookTimeout: 60_000,
    fileParallelism: false,
    projects: [
      { extends: true, ssr: onServer, resolve: { alias }, test: { name: 'server', include: ['test/*.test.ts'] } },
      {
        extends: true,
        plugins: [svelte()],
        resolve: { ...inBrowser, alias },
        test: {
          name: 'device',
          include: ['test/device/*.test.ts'],
          environment: 'happy-dom',
          benchmark: { include: [] }
        }
      }
    ]
  }
});
