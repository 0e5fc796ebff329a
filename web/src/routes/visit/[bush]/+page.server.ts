import { error } from '@sveltejs/kit';

import { visitorPage } from '$lib/server/visitors.ts';

export async function load({ params, setHeaders }) {
  const page = await visitorPage(params.bush);
  if (!page) error(404, 'There is nothing at this address.');
  setHeaders({ 'cache-control': 'public, max-age=300' });
  return { page };
}
