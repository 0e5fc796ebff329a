import { defineConfig } from 'vite';

/** The command-line bundle: migrations and demo data without the web server. */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'build-cli',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: { input: 'src/cli/cli.ts' }
  },
  ssr: { noExternal: ['@baumkin/core', 'papaparse', 'pure-rand'] }
});
