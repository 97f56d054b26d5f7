export * from './correct';
export * from './schema';
export * from './solver';
