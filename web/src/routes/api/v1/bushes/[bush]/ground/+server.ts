import { error, json } from '@sveltejs/kit';

import { enter, readRequest } from '$lib/server/api.ts';
import { groundOf, layGround, liftGround, MOST_GROUND_BYTES, NoPicture } from '$lib/server/ground.ts';

/** The picture under the map. */
export async function GET({ params, locals }) {
  const bush = await enter(locals, params.bush);
  const ground = await groundOf(bush.id);
  if (!ground) error(404, 'No picture lies under this map.');
  return new Response(new Uint8Array(ground.picture), {
    headers: { 'content-type': ground.mimeType, 'cache-control': 'private, no-cache' }
  });
}

export async function PUT({ params, locals, request }) {
  const bush = await enter(locals, params.bush, 'steward');
  const { pictureBase64, fit } = await readRequest('ground', request);
  const picture = Buffer.from(pictureBase64, 'base64');
  if (picture.byteLength > MOST_GROUND_BYTES) error(413, 'The picture is larger than 12 MB. Make it smaller first.');
  try {
    await layGround(bush.id, picture, fit);
  } catch (problem) {
    if (problem instanceof NoPicture) error(422, problem.message);
    throw problem;
  }
  return json({ fit });
}

export async function DELETE({ params, locals }) {
  const bush = await enter(locals, params.bush, 'steward');
  await liftGround(bush.id);
  return new Response(null, { status: 204 });
}
