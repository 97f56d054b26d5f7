export * from './hand';
export * from './pour';
export * from './staircase';
export * from './truth';
