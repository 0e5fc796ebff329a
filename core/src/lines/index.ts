export * from './fall.ts';
export * from './levelling.ts';
export * from './missing.ts';
export * from './missingTask.ts';
export * from './parts.ts';
export * from './pipe.ts';
export * from './work.ts';
