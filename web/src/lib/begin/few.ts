/** In a bush of no more trees each is taken from step to step, and map and stands stay away until there are any. */
export const FEW_TREES = 12;
