export * from './check';
export * from './express';
export * from './observe';
export * from './profile';
export * from './reading';
export * from './schema';
export * from './shipped';
export { DEFAULT_DROP_ML } from './syringe';
export * from './syringe-entry';
