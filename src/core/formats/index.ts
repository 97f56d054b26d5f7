export * from './book';
export * from './csv-out';
export * from './lab-sheet';
export { readSheet, type RefusedCell, type SheetContent, type SheetNote, type SheetReading } from './sheet';
export * from './sheet-layout';
export type { Meaning, SheetLayout } from './sheet-columns';
export { type DateOrder } from './sheet-dates';
