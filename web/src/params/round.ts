/** The rounds that are walked beside the tapping round. */
const ROUNDS = new Set(['measure', 'crown', 'identify', 'paint', 'pull', 'closing']);

export const match = (param: string): boolean => ROUNDS.has(param);
