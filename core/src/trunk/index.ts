export * from './best.ts';
export * from './column.ts';
export * from './defaults.ts';
export * from './draws.ts';
export * from './heatmap.ts';
export * from './spot.ts';
export * from './trunk.ts';
export * from './words.ts';
