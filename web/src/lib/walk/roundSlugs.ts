/** The rounds that are walked beside the tapping round, by their addresses. */
export const ROUND_SLUGS = ['measure', 'crown', 'identify', 'paint', 'hang', 'pull', 'closing'] as const;
export type RowRoundSlug = (typeof ROUND_SLUGS)[number];

export const isRoundSlug = (name: string | undefined): name is RowRoundSlug =>
  ROUND_SLUGS.some((slug) => slug === name);
