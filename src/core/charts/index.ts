export * from './chart';
export * from './schema';
