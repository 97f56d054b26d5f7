export * from './latest';
export * from './rows';
export * from './save';
export * from './series';
export * from './void';
