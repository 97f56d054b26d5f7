export * from './placing';
export * from './due';
export * from './judge';
export * from './schema';
export * from './schools';
