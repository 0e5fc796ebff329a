import { json } from '@sveltejs/kit';

import { requireBush, readRequest } from '$lib/server/api.ts';
import { storeRecords } from '$lib/server/records.ts';

/** Takes a batch of records of work. Safe to repeat: a record that is stored already says so. */
export async function POST({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const { records } = await readRequest('records', request);
  return json({ outcomes: await storeRecords(bush.id, { id: locals.member!.id, role: bush.role }, records) });
}
