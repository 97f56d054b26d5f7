export * from './change';
export { usualRestlessness } from './defaults';
export * from './schema';
export * from './tank';
export * from './tank-schema';
export * from './trend';
export * from './water-events';
