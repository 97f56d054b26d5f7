export * from './colour';
export * from './schema';
