export * from './convert';
export * from './entry';
export * from './format';
export * from './levels';
export * from './schema';
export * from './units';
