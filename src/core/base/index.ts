export * from './nth';
export * from './one-of';
export * from './problems';
export * from './text';
export * from './time';
