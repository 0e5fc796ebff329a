import { PAGES } from '$lib/frame/pages.ts';

const SLUGS = new Set(Object.values(PAGES).flatMap(({ pages }) => pages.map(({ slug }) => slug)));

/** The pages of the stations; everything else after a station is a tree. */
export const match = (param: string): boolean => SLUGS.has(param);
