import { json } from '@sveltejs/kit';

import { openApi } from '$lib/server/openapi.ts';

/** The description of this interface. */
export function GET({ url }) {
  return json(openApi(url.origin));
}
