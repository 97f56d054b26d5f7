export * from './repeats';
export * from './schema';
