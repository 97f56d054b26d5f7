export * from './alternatives';
export * from './questions';
