import { error, json } from '@sveltejs/kit';
import { z } from 'zod';

import { enter, readJson } from '$lib/server/api.ts';
import { today } from '$lib/server/clock.ts';
import { importTrees, UnreadableFile } from '$lib/server/importTrees.ts';

const MOST_BYTES = 8_000_000;
const requestSchema = z.object({ text: z.string(), defaultUnit: z.enum(['mm', 'cm', 'm', 'in', 'ft']) });

/** Stores the good rows of a file of trees and names the bad ones. */
export async function POST({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const parsed = requestSchema.safeParse(await readJson(request, MOST_BYTES));
  if (!parsed.success) error(400, 'An import holds the text of a file and a default unit.');
  try {
    return json(await importTrees(bush, locals.member!.id, parsed.data.text, parsed.data.defaultUnit, today()));
  } catch (problem) {
    if (problem instanceof UnreadableFile) error(422, problem.message);
    throw problem;
  }
}
