export * from './change';
export * from './schema';
export * from './trend';
export * from './water-events';
