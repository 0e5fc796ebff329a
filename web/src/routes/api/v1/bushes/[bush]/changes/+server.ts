import { seasonOf } from '@baumkin/core/records';
import { error } from '@sveltejs/kit';

import { answering, packedJson, requireBush } from '$lib/server/api.ts';
import { changesAfter } from '$lib/server/changes.ts';
import { today } from '$lib/server/clock.ts';
import { noteBook } from '$lib/server/heldBooks.ts';

/** More than that may wait on no device, whatever it says. */
const MOST_WAITING = 1_000_000;

/** What changed after one number of the feed. */
export async function GET({ params, url, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const after = Number(url.searchParams.get('after') ?? NaN);
  if (!Number.isSafeInteger(after) || after < 0)
    error(400, 'Say after which number: after=0, or one that you were told.');
  const changes = await answering(changesAfter(bush.id, url.searchParams.get('feed') ?? '', after));
  const waiting = Number(url.searchParams.get('waiting') ?? NaN);
  if (locals.session && Number.isSafeInteger(waiting) && waiting >= 0)
    await noteBook({
      bushId: bush.id,
      userId: locals.member!.id,
      session: locals.session,
      number: changes.to,
      waiting: Math.min(waiting, MOST_WAITING)
    });
  // Whoever may do something else than before is told so, though nothing in the bush is other.
  const [day, memberId] = [today(), locals.member!.id];
  const etag = `"${changes.feed} ${changes.to} ${bush.role} ${memberId} ${day}"`;
  if (changes.to === after && request.headers.get('if-none-match') === etag)
    return new Response(null, { status: 304, headers: { etag } });
  const answer = await packedJson(request, {
    role: bush.role,
    memberId,
    today: day,
    season: seasonOf(day),
    ...changes
  });
  answer.headers.set('etag', etag);
  answer.headers.set('cache-control', 'private, no-cache');
  return answer;
}
