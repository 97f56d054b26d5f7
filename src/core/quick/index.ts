export * from './amount';
export * from './quick';
export * from './words';
