export * from './book';
export * from './csv-out';
export * from './lab-sheet';
export * from './notebook';
export { readSheet, type RefusedCell, type SheetContent, type SheetNote, type SheetReading } from './sheet';
export * from './sheet-layout';
export { ASKED, isNoTest, type Meaning, type SheetLayout } from './sheet-columns';
export { guessOrder, type DateOrder } from './sheet-dates';
