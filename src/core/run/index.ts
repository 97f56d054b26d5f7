export * from './events';
export * from './from-method';
export * from './mark';
export * from './remaining';
export * from './run';
export * from './free-hands';
