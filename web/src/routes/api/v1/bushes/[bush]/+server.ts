import { seasonOf } from '@baumkin/core';

import type { Overview } from '$lib/client/overview.ts';
import { enter, packedJson } from '$lib/server/api.ts';
import { featuresOf, membersOf, standsOf } from '$lib/server/bushes.ts';
import { today } from '$lib/server/clock.ts';
import { bushRecordsOf } from '$lib/server/records.ts';
import { treeRows } from '$lib/server/trees.ts';

/** The bush at a glance: what every station's list, the beads and the map are drawn from. */
export async function GET({ params, locals, request }) {
  const bush = await enter(locals, params.bush);
  const day = today();
  const season = seasonOf(day);
  const [stands, features, people, bushRecords, { rows: trees, priors: ringPriors }] = await Promise.all([
    standsOf(bush.id),
    featuresOf(bush.id),
    membersOf(bush.id),
    bushRecordsOf(bush.id),
    treeRows(bush.id, season, day)
  ]);
  const { id, name, role, settings, version } = bush;
  const member = { id: locals.member!.id, name: locals.member!.displayName };
  return packedJson(request, {
    bush: { id, name, role, settings, version },
    people: people.map((person) => ({ id: person.id, name: person.displayName })),
    member,
    today: day,
    season,
    stands,
    features,
    bushRecords,
    ringPriors,
    trees
  } satisfies Overview);
}
