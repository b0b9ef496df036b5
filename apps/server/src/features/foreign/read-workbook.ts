import type ExcelJS from 'exceljs';
import { issue, type ForeignCell, type Issue } from '@margin-lens/core';
import type { ForeignSink } from './read-foreign';
import { newWorkbook } from '../../workbook/new-workbook';

/** Text of a cell, or its number where the spreadsheet holds one; a formula gives its stored value. */
function cellOf(cell: ExcelJS.Cell, onFormula: (address: string) => void): ForeignCell {
  let { value } = cell;
  if (value && typeof value === 'object' && ('formula' in value || 'sharedFormula' in value)) {
    onFormula(cell.address);
    value = (value.result ?? '') as ExcelJS.CellValue;
  }
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return value;
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value === 'object') {
    if ('richText' in value) return value.richText.map(({ text }) => text).join('');
    if ('text' in value) return String(value.text);
    if ('error' in value) return String(value.error);
  }
  return String(value);
}

/** Names of the sheets of a workbook that can be seen. */
export async function sheetsOf(location: string): Promise<string[]> {
  const workbook = await newWorkbook();
  await workbook.xlsx.readFile(location, { ignoreNodes: ['sheetData'] } as never);
  return workbook.worksheets.filter(({ state }) => state === 'visible').map(({ name }) => name);
}

/**
 * Hands the rows of a sheet on; `line` is the row of the sheet. Cells behind the header's last one are left out when
 * they are empty.
 */
export async function readWorkbook(
  location: string,
  file: string,
  sheet: string | undefined,
  sink: ForeignSink,
  report: (found: Issue) => void,
): Promise<void> {
  const workbook = await newWorkbook();
  await workbook.xlsx.readFile(location);
  const found = sheet === undefined ? workbook.worksheets[0] : workbook.getWorksheet(sheet);
  let formulas = 0;
  const onFormula = (cell: string) => {
    if (formulas++ === 0) report(issue('CORE_FOREIGN_FORMULA', { cell }, { file }));
  };
  let width = 0;
  found?.eachRow({ includeEmpty: false }, (row, line) => {
    const cells = Array.from({ length: Math.max(width, row.cellCount) }, (_, i) =>
      cellOf(row.getCell(i + 1), onFormula),
    );
    while (cells.length > width && width > 0 && cells.at(-1) === '') cells.pop();
    if (cells.every((cell) => cell === '')) return;
    const wasHeader = sink.row(cells, line);
    if (wasHeader) width = cells.length;
  });
}
