export * from './repeats';
export * from './schema';
export * from './compare';
export * from './control';
export * from './reference';
export * from './scorecard';
export * from './waters';
export * from './spread';
