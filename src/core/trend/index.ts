export * from './change';
export * from './expectation';
