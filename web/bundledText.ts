import { build, type Plugin } from 'vite';

import { named, onServer } from './coreSource.ts';

const ASKED = '?bundled';

/**
 * `import text from './some.thread.ts?bundled'` is a module with all that it imports, as the text of one: a thread of the server is
 * begun from it without a file that would have to lie somewhere, be it in a build, a test or while it is worked on.
 */
export function bundledText(): Plugin {
  return {
    name: 'bundled-text',
    enforce: 'pre',
    async load(id) {
      if (!id.endsWith(ASKED)) return undefined;
      const entry = id.slice(0, -ASKED.length);
      this.addWatchFile(entry);
      const [built] = [
        await build({
          configFile: false,
          logLevel: 'warn',
          define: named,
          ssr: { ...onServer, noExternal: true },
          build: {
            ssr: entry,
            write: false,
            target: 'node20',
            minify: true,
            rolldownOptions: { output: { format: 'es', codeSplitting: false } }
          }
        })
      ].flat();
      if (!built || !('output' in built)) throw new Error(`${entry} was not bundled.`);
      return `export default ${JSON.stringify(built.output[0].code)};`;
    }
  };
}
