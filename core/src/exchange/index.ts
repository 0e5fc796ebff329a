export * from './position.ts';
export * from './species.ts';
export * from './treesCsv.ts';
