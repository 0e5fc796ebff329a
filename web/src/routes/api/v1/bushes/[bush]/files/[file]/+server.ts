import { error } from '@sveltejs/kit';

import { requireBush } from '$lib/server/api.ts';
import { noted } from '$lib/server/audit.ts';
import { bushFile } from '$lib/server/bushFiles.ts';
import { today } from '$lib/server/clock.ts';

/** The bush as a file: tables, GeoJSON, GPX, all tables with their descriptor, or the whole archive. */
export async function GET({ params, locals }) {
  const bush = await requireBush(locals, params.bush);
  const file = await bushFile(bush, params.file, today());
  if (!file) error(404, 'There is no file of this name.');
  if ('problem' in file) error(409, file.problem);
  if (params.file === 'archive.json')
    await noted({ bushId: bush.id, authorId: locals.member!.id, at: new Date() }, 'archive', { archive: 'out' });
  const name = `${bush.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-${params.file}`;
  return new Response(file.body, {
    headers: {
      'content-type': file.type,
      'content-disposition': `attachment; filename="${params.file}"; filename*=UTF-8''${encodeURIComponent(name)}`
    }
  });
}
