export * from './line';
export * from './matrix';
export * from './median';
export * from './normal';
export * from './random';
export * from './york';
export * from './scale';
