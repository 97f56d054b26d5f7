export * from './book';
export * from './csv-out';
export * from './sheet';
export { type Meaning } from './sheet-columns';
export { type DateOrder } from './sheet-dates';
