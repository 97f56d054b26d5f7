export * from './convert';
export * from './entry';
export * from './format';
export * from './masses';
export * from './parameters';
export * from './salinity-scales';
export * from './schema';
export * from './units';
