import { seasonOf } from '@baumkin/core/records';
import { json } from '@sveltejs/kit';

import type { Overview } from '$lib/client/overview.ts';
import { answering, packedText, readRequest, requireBush } from '$lib/server/api.ts';
import { changeNameOrOrigin } from '$lib/server/bushes.ts';
import { wholeOf } from '$lib/server/changes.ts';
import { today } from '$lib/server/clock.ts';
import { linesOf } from '$lib/server/lines.ts';

/** The bush at a glance: what every station's list, the beads and the map are drawn from. */
export async function GET({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush);
  const day = today();
  const season = seasonOf(day);
  // The number is of the moment before the lines are read: what came between is told again by the feed, and never missed.
  const { feed, number, whole } = await wholeOf(bush.id);
  const { lines, priors, sizes } = await linesOf(bush.id, { season, today: day });
  const { id, role } = bush;
  const { name, settings, version, origin, ...rest } = whole;
  const member = { id: locals.member!.id, name: locals.member!.displayName };
  const head = {
    bush: { id, name, role, settings, version, origin },
    member,
    today: day,
    season,
    ...rest,
    ringPriors: priors,
    sizes,
    feed,
    number
  } satisfies Omit<Overview, 'trees'>;
  // The lines are kept as the text that they are sent as.
  return packedText(request, `${JSON.stringify(head).slice(0, -1)},"trees":[${lines.join()}]}`);
}

/** Gives the bush another name, or says where on earth it lies. */
export async function PATCH({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { version, ...change } = await readRequest('bush', request);
  return json(
    await answering(changeNameOrOrigin({ bushId: bush.id, authorId: locals.member!.id, seen: version }, change))
  );
}
