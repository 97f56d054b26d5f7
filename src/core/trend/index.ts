export * from './change';
export * from './schema';
export * from './thinned';
export * from './trend';
export * from './water-events';
