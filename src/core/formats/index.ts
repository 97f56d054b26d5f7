export * from './book';
export * from './csv-out';
export * from './sheet';
export * from './sheet-layout';
export type { Meaning, SheetLayout } from './sheet-columns';
export { type DateOrder } from './sheet-dates';
