export * from './change';
export * from './expectation';
export * from './schema';
export * from './trend';
