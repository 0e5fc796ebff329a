import { error } from '@sveltejs/kit';

import { packedAlready, requireBush } from '$lib/server/api.ts';
import { snapshotPart } from '$lib/server/snapshot.ts';

/** A part of a snapshot. It never changes. */
export async function GET({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const [number, part] = [Number(params.number), Number(params.part)];
  const content =
    Number.isSafeInteger(number) && Number.isSafeInteger(part) && (await snapshotPart(bush.id, number, part));
  if (!content) error(404, 'There is no such part of a snapshot, or none yet.');
  return packedAlready(request, content);
}
