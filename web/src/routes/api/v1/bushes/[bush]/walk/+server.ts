import { error } from '@sveltejs/kit';
import { z } from 'zod';

import { enter, readJson } from '$lib/server/api.ts';
import { reorderWalk } from '$lib/server/trees.ts';

const MOST_BYTES = 4_000_000;
const requestSchema = z.object({ order: z.array(z.uuid()).min(1).max(50_000) });

/** Takes a new walking order. */
export async function PUT({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const parsed = requestSchema.safeParse(await readJson(request, MOST_BYTES));
  if (!parsed.success) error(400, 'A walking order is a list of trees.');
  await reorderWalk(bush.id, parsed.data.order);
  return new Response(null, { status: 204 });
}
