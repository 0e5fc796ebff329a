import { requireBush } from '$lib/server/api.ts';
import { listen } from '$lib/server/listeners.ts';

/** Tells open pages that there is something new. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  return new Response(listen(bush.id, locals.member!.id), {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
  });
}
