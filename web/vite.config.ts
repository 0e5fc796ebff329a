import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

import { inBrowser, named, onServer } from './coreSource.ts';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  define: named,
  resolve: inBrowser,
  ssr: onServer,
  worker: { format: 'es' },
  server: { fs: { allow: ['..'] } },
  optimizeDeps: { include: ['comlink', 'dexie', 'papaparse'], exclude: ['highs'] }
});
