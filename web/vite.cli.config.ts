import { defineConfig } from 'vite';

import { bundledText } from './bundledText.ts';
import { named, onServer } from './coreSource.ts';

/** What is run beside the web server: migrations, and the loader of the demo, which production never loads. */
export default defineConfig({
  plugins: [bundledText()],
  define: named,
  build: {
    ssr: true,
    outDir: 'build-cli',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: { input: { cli: 'src/cli/cli.ts', demo: '../demo/cli.ts' } }
  },
  ssr: { noExternal: ['@baumkin/core', 'papaparse', 'pure-rand'], ...onServer }
});
