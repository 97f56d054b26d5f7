export * from './placing';
export * from './due';
export * from './judge';
export * from './schools';
