import { error, json } from '@sveltejs/kit';

import { answering, requireBush, readRequest } from '$lib/server/api.ts';
import { baseMapOf, setBaseMap, deleteBaseMap, MAX_BASE_MAP_BYTES } from '$lib/server/baseMap.ts';

/** The picture under the map. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  const baseMap = await baseMapOf(bush.id);
  if (!baseMap) error(404, 'No picture lies under this map.');
  return new Response(new Uint8Array(baseMap.picture), {
    headers: { 'content-type': baseMap.mimeType, 'cache-control': 'private, no-cache' }
  });
}

export async function PUT({ params, locals, request }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  const { pictureBase64, fit } = await readRequest('baseMap', request);
  const picture = Buffer.from(pictureBase64, 'base64');
  if (picture.byteLength > MAX_BASE_MAP_BYTES) error(413, 'The picture is larger than 12 MB. Make it smaller first.');
  await answering(setBaseMap({ bushId: bush.id, authorId: locals.member!.id }, picture, fit));
  return json({ fit });
}

export async function DELETE({ params, locals }) {
  const bush = await requireBush(locals, params.bush, 'steward');
  await deleteBaseMap({ bushId: bush.id, authorId: locals.member!.id });
  return new Response(null, { status: 204 });
}
