export * from './blend';
export * from './composition';
export * from './dose';
export * from './formula';
export * from './plan';
export * from './pour';
export * from './salts';
export * from './supplement';
