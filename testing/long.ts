/**
 * Tests have a short form, which `npm test` runs at every change, and a long one, which `npm run test:long` runs: more
 * trees, more pages, more of everything that chance decides.
 */
const LONG = process.env.BAUMKIN_LONG === '1';

/** What this run takes of two. */
export const shortOrLong = <T>(short: T, long: T): T => (LONG ? long : short);

/** Is this the long form? Walks of minutes through one page are for it alone. */
export const inLongForm = LONG;

/** How often a property is tried that takes long to try once. */
export const tries = (short: number) => ({ numRuns: shortOrLong(short, 20 * short) });
