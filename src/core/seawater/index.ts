export * from './ammonia';
export * from './carbon';
export * from './low-ph';
export * from './schema';
export { seawater, carbonateSystem, type Water } from './seawater';
