import { LINE_KINDS } from '@baumkin/core/records';
import { parentPort, workerData } from 'node:worker_threads';
import { gunzipSync } from 'node:zlib';

import { derivedLine } from './derivedLine.ts';
import type { LinesWanted } from './lineThreads.ts';
import type { SnapshotTrees } from './snapshot.ts';

/* A thread that is given parts of a snapshot, and answers each with the lines of those of its trees that are wanted. */

const { trees, season } = workerData as LinesWanted;
const wanted = new Map(trees.map((tree) => [tree.id, tree]));
const kinds = new Set<string>(LINE_KINDS);

parentPort!.on('message', (packed: Uint8Array) => {
  const { lives } = JSON.parse(gunzipSync(packed).toString()) as SnapshotTrees;
  parentPort!.postMessage(
    lives.flatMap(({ id, records }) => {
      const tree = wanted.get(id);
      return tree
        ? derivedLine(
            tree,
            records.filter(({ kind }) => kinds.has(kind)),
            season
          )
        : [];
    })
  );
});
