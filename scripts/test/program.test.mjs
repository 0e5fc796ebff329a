import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';

import { root } from '../lib/paths.mjs';

/* What of the built program devices keep. The build stands already. */

const client = join(root, 'web/build/client');
const PRECOMPRESSED = /\.(gz|br)$/;

test('the service worker keeps every file that a page may ask for', () => {
  const kept = readFileSync(join(client, 'service-worker.js'), 'utf8');
  const files = readdirSync(join(client, '_app/immutable'), { recursive: true, withFileTypes: true })
    .filter((file) => file.isFile() && !PRECOMPRESSED.test(file.name))
    .map(({ name }) => name);
  expect(files.length).toBeGreaterThan(50);
  expect(files.filter((name) => !kept.includes(name))).toEqual([]);
});
