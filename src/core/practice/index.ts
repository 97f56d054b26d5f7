export * from './counting';
export * from './technique';
export * from './technique-schema';
export * from './pour';
export * from './staircase';
export * from './truth';
