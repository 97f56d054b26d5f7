export * from './placing';
export * from './due';
export * from './judge';
export * from './judge-schema';
export * from './schema';
export * from './schools';
