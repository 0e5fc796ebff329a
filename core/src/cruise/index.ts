export * from './plots.ts';
export * from './precision.ts';
