export * from './repeats';
export * from './reference';
export * from './compare';
export * from './scorecard';
export * from './waters';
