export * from './bench';
export * from './from-method';
export * from './schema';
