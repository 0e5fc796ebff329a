import { error, json } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { logOf } from '$lib/server/audit.ts';
import { LOG_KINDS, type LogKind } from '$lib/labels/log.ts';

/** Who changed what of the bush. */
export async function GET({ params, locals, url }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const kind = url.searchParams.get('kind') || null;
  if (kind !== null && !Object.hasOwn(LOG_KINDS, kind)) error(400, `The log has no entries of "${kind}".`);
  const before = Number(url.searchParams.get('before') ?? 0);
  if (!Number.isSafeInteger(before) || before < 0) error(400, 'Say the id of an entry.');
  return json(await logOf(bush.id, { kind: kind as LogKind | null, before: before || null }));
}
