export * from './bench';
export * from './from-method';
export * from './schema';
export * from './rest';
export * from './run';
export * from './run-events';
