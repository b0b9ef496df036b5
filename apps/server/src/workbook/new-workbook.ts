import type ExcelJS from 'exceljs';

/** An empty workbook; the library is loaded when the first one is made, since most servers never write one. */
export async function newWorkbook(): Promise<ExcelJS.Workbook> {
  const { default: library } = await import('exceljs');
  return new library.Workbook();
}
