export * from './bench';
export * from './schema';
