export * from './quick';
export * from './words';
