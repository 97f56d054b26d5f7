export * from './correct';
export * from './schema';
export * from './solver';
export * from './wishes';
