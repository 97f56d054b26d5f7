export * from './placing';
export * from './due';
