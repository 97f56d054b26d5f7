export * from './change';
export { usualRestlessness } from './defaults';
export * from './kept-reading';
export * from './schema';
export * from './tank';
export * from './tank-schema';
export * from './trend';
export * from './water-events';
