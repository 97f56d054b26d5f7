export * from './placing';
