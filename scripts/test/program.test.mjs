import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';

import { root } from '../lib/paths.mjs';

/* What of the built program devices keep. The build stands already. */

const client = join(root, 'web/build/client');
const PRECOMPRESSED = /\.(gz|br)$/;

test('the service worker keeps every file that a page may ask for', () => {
  const worker = readFileSync(join(client, 'service-worker.js'), 'utf8');
  const files = readdirSync(join(client, '_app/immutable'), { recursive: true, withFileTypes: true })
    .filter((file) => file.isFile() && !PRECOMPRESSED.test(file.name))
    .map(({ name, parentPath }) => ({
      name,
      content: createHash('sha256')
        .update(readFileSync(join(parentPath, name)))
        .digest('hex')
    }));
  expect(files.length).toBeGreaterThan(50);
  // A library names its own file a second time, at an address that is never asked for.
  const kept = new Set(files.filter(({ name }) => worker.includes(name)).map(({ content }) => content));
  expect(files.filter(({ content }) => !kept.has(content))).toEqual([]);
});
