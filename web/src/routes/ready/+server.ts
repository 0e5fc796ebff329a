import { json } from '@sveltejs/kit';

import { readiness } from '$lib/server/readiness.ts';

/** Can it serve? A proxy sends nobody to a server that says no: its database is away or behind, or the disk is full. */
export async function GET() {
  const found = await readiness();
  return json(found, { status: Object.values(found).every(Boolean) ? 200 : 503 });
}
