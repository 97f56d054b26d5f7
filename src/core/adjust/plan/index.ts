export * from './changes';
export * from './correct';
export * from './request';
export * from './schema';
export * from './solver';
export * from './wishes';
