export * from './balance.ts';
export * from './condition.ts';
export * from './decades.ts';
export * from './gear.ts';
export * from './guidelines.ts';
export * from './suggest.ts';
export * from './valueOfMeasuring.ts';
export * from './timeToSize.ts';
