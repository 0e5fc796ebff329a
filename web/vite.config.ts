import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

import { bundledText } from './bundledText.ts';
import { inBrowser, named, onServer } from './coreSource.ts';

export default defineConfig({
  plugins: [bundledText(), tailwindcss(), sveltekit()],
  define: named,
  resolve: inBrowser,
  ssr: onServer,
  // One file a worker: the service worker keeps the files that the pages name, and knows of no others.
  worker: { format: 'es', rolldownOptions: { output: { codeSplitting: false } } },
  server: { fs: { allow: ['..'] } },
  optimizeDeps: { include: ['comlink', 'dexie', 'papaparse'], exclude: ['highs'] }
});
