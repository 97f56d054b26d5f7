export * from './evidence';
export * from './proved';
