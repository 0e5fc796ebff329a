import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { defaultClientConditions, defaultServerConditions } from 'vite';

/** The core is taken as it is written, not as it was last built. */
const SOURCE = '@baumkin/source';

export const onServer = { resolve: { conditions: [SOURCE, ...defaultServerConditions] } };
export const inBrowser = { conditions: [SOURCE, ...defaultClientConditions] };

/** Names the core by what it says: what another one derived and kept is derived anew. */
function coreNamed(): string {
  const folder = fileURLToPath(new URL('../core/src', import.meta.url));
  const hash = createHash('sha256');
  for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort())
    if (name.endsWith('.ts')) hash.update(name).update(readFileSync(join(folder, name)));
  return hash.digest('hex').slice(0, 16);
}

export const named = { CORE: JSON.stringify(coreNamed()) };
