export * from './counting';
export * from './hand';
export * from './hand-schema';
export * from './pour';
export * from './staircase';
export * from './truth';
