import { error, json } from '@sveltejs/kit';
import { roleSchema } from '@baumkin/core';
import { z } from 'zod';

import { enter, readJson } from '$lib/server/api.ts';
import { admit, membersOf, UnknownName } from '$lib/server/bushes.ts';

const requestSchema = z.object({ signInName: z.string().trim().min(1).max(80), role: roleSchema });

export async function GET({ params, locals }) {
  const bush = await enter(locals, params.bush);
  return json({ members: await membersOf(bush.id) });
}

/** Lets somebody in, or changes a role. The steward's own role stays: a bush without a steward helps nobody. */
export async function POST({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const parsed = requestSchema.safeParse(await readJson(request, 10_000));
  if (!parsed.success) error(400, 'Name somebody and a role.');
  if (parsed.data.signInName.toLowerCase() === locals.member!.signInName)
    error(409, 'You stay the steward of this bush.');
  try {
    await admit(bush.id, parsed.data.signInName, parsed.data.role);
  } catch (problem) {
    if (problem instanceof UnknownName) error(404, problem.message);
    throw problem;
  }
  return json({ members: await membersOf(bush.id) });
}
