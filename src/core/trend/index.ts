export * from './change';
