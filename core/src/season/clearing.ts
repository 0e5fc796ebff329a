/** What is done about the shavings in a fresh hole. Schools differ; nobody blows into it. Common practice. */
export const CLEARINGS = ['leave', 'brush', 'rinse', 'swab'] as const;
export type Clearing = (typeof CLEARINGS)[number];
