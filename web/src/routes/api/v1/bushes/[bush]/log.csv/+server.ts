import { requireBush } from '$lib/server/api.ts';
import { logTable } from '$lib/server/audit.ts';
import { streamOf } from '$lib/server/bushFiles.ts';

/** All of a bush's log as a table. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const headers = {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="log.csv"'
  };
  return new Response(streamOf(logTable(bush.id)), { headers });
}
