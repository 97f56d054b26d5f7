export * from './chart';
export * from './schema';
export * from './lines';
