export * from './area.ts';
export * from './length.ts';
export * from './parse.ts';
export * from './pressure.ts';
export * from './temperature.ts';
export * from './volume.ts';
