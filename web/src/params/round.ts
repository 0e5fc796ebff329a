import { isRoundSlug } from '$lib/walk/roundSlugs.ts';

/** A round that is walked beside the tapping round. */
export const match = (param: string): boolean => isRoundSlug(param);
