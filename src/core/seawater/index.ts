export * from './schema';
export * from './seawater';
