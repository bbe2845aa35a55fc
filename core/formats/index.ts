export { blockCells } from './csvTable.ts';
export * from './files.ts';
export * from './placementFile.ts';
export * from './sheet.ts';
export * from './sheetFile.ts';
export type { RefusedCell, SheetChange, SheetReading } from './sheetReading.ts';
export * from './typed.ts';
export * from './words.ts';
