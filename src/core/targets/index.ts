export * from './placing';
export * from './due';
export * from './judge';
export * from './look-again';
export * from './judge-schema';
export * from './schema';
export * from './schools';
export * from './urgency';
