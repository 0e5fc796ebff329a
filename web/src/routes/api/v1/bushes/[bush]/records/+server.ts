import { error, json } from '@sveltejs/kit';
import { recordBatchSchema } from '@baumkin/core';

import { enter, readJson } from '$lib/server/api.ts';
import { storeRecords } from '$lib/server/records.ts';

const MOST_BYTES = 2_000_000;

/** Takes a batch of records of work. Safe to repeat: a record that is stored already says so. */
export async function POST({ params, locals, request }) {
  const bush = await enter(locals, params.bush);
  const batch = recordBatchSchema.safeParse(await readJson(request, MOST_BYTES));
  if (!batch.success) error(400, 'A batch holds 1 to 500 records.');
  return json({
    outcomes: await storeRecords(bush.id, { id: locals.member!.id, role: bush.role }, batch.data.records)
  });
}
