export * from './bark.ts';
export * from './geodesy.ts';
export * from './ground.ts';
export * from './polygon.ts';
