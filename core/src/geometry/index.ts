export * from './bark.ts';
export * from './fixes.ts';
export * from './geodesy.ts';
export * from './ground.ts';
export * from './picture.ts';
export * from './polygon.ts';
