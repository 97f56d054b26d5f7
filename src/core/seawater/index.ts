export * from './ammonia';
export * from './schema';
export * from './seawater';
