import { preferences } from '$lib/client/preferences.svelte.ts';

/** How far a spot lies from the bush's origin, each way named: `12.5 m west, 30.0 m south`. */
export function fromOrigin({ eastM, northM }: { readonly eastM: number; readonly northM: number }): string {
  const far = (m: number, up: string, down: string) =>
    `${preferences.length(Math.abs(m) * 1000, 'ground')} ${Number(m.toFixed(1)) < 0 ? down : up}`;
  return `${far(eastM, 'east', 'west')}, ${far(northM, 'north', 'south')}`;
}
