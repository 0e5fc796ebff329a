export * from './fall.ts';
export * from './levelling.ts';
export * from './parts.ts';
export * from './pipe.ts';
