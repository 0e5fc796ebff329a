import { json } from '@sveltejs/kit';

import { devices } from '$lib/server/devices.ts';

/** The measuring devices that answer on this machine. */
export function GET() {
  return json({ devices: devices() });
}
