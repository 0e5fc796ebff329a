import { datedDiameter, deriveTree, seasonOf, writeTreesCsv } from '@baumkin/core';

import { enter } from '$lib/server/api.ts';
import { standsOf } from '$lib/server/bushes.ts';
import { today } from '$lib/server/clock.ts';
import { recordsByTree } from '$lib/server/records.ts';
import { treesOf } from '$lib/server/trees.ts';

/** The trees as the file that the import reads. */
export async function GET({ params, locals }) {
  const bush = await enter(locals, params.bush);
  const day = today();
  const [trees, stands, records] = await Promise.all([treesOf(bush.id), standsOf(bush.id), recordsByTree(bush.id)]);
  const names = new Map(stands.map((stand) => [stand.id, stand.name]));
  const text = writeTreesCsv(
    trees.map((tree) => {
      const state = deriveTree(records.get(tree.id) ?? [], seasonOf(day), day);
      const lastDbhMm = state.lastReading ? datedDiameter(state.lastReading).dbhMm : null;
      return { tree, stand: tree.standId ? (names.get(tree.standId) ?? null) : null, state, lastDbhMm };
    })
  );
  const name = bush.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase();
  return new Response(text, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="trees.csv"; filename*=UTF-8''${encodeURIComponent(name)}-trees.csv`
    }
  });
}
