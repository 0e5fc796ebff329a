export * from './gauges.ts';
export * from './plots.ts';
export * from './precision.ts';
