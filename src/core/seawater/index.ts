export * from './ammonia';
export * from './carbon';
export { CONSTANTS_HOLD, dissociation } from './constants';
export * from './low-ph';
export * from './schema';
export { carbonateSystem, MEQ_PER_DKH, seawater, type Water } from './seawater';
export * from './reference';
