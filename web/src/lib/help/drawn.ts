import { BOOK } from './drawings/book.ts';
import { TAPS } from './drawings/taps.ts';
import { TREE } from './drawings/tree.ts';

/**
 * A drawing to each way of doing things, on a sheet 360 wide and 150 high. What the hand does is in the one strong colour; what wood,
 * leaves and holes look like is as everywhere in the house.
 */
export const DRAWN = { ...BOOK, ...TREE, ...TAPS };

export type DrawnId = keyof typeof DRAWN;
