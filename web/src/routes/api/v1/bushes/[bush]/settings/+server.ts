import { error, json } from '@sveltejs/kit';
import { bushSettingsChangeSchema } from '@baumkin/core';
import { z } from 'zod';

import { enter, readJson } from '$lib/server/api.ts';
import { changeSettings, Outdated } from '$lib/server/bushes.ts';

const requestSchema = z.object({ version: z.number().int(), settings: bushSettingsChangeSchema });

/** Changes some of the bush's own numbers. */
export async function PATCH({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const parsed = requestSchema.safeParse(await readJson(request, 200_000));
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    error(400, `${issue.path.slice(1).join(', ')}: ${issue.message}`);
  }
  try {
    return json(await changeSettings(bush.id, locals.member!.id, parsed.data.version, parsed.data.settings));
  } catch (problem) {
    if (problem instanceof Outdated) error(409, problem.message);
    throw problem;
  }
}
