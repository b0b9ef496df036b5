import { issue, type Issue } from '@margin-lens/core';
import { Workbook, WorkbookProblem } from '../../workbook/open-workbook';
import { readRows, sheetsOf } from '../../workbook/read-rows';
import type { ForeignSink } from './read-foreign';

/** Names of the sheets of a workbook that can be seen, or the finding that keeps it from being read. */
export async function visibleSheets(location: string, file: string): Promise<string[] | Issue> {
  try {
    const workbook = await Workbook.open(location, file);
    try {
      const { sheets } = await sheetsOf(workbook);
      return sheets.filter(({ isVisible }) => isVisible).map(({ name }) => name);
    } finally {
      workbook.close();
    }
  } catch (error) {
    if (error instanceof WorkbookProblem) return error.found;
    throw error;
  }
}

/**
 * Hands the rows of a sheet on, of the first one where none is named; `line` is the row of the sheet. Cells behind the
 * header's last one are left out when they are empty.
 */
export async function readWorkbook(
  location: string,
  file: string,
  sheet: string | undefined,
  sink: ForeignSink,
  report: (found: Issue) => void,
): Promise<void> {
  let formulas = 0;
  let width = 0;
  try {
    const workbook = await Workbook.open(location, file);
    try {
      const { sheets, isFrom1904 } = await sheetsOf(workbook);
      const found = sheet === undefined ? sheets[0] : sheets.find(({ name }) => name === sheet);
      if (!found) return;
      await readRows(workbook, found, isFrom1904, {
        formula: (cell) => {
          if (formulas++ === 0) report(issue('CORE_FOREIGN_FORMULA', { cell }, { file }));
        },
        row: ({ line, cells }) => {
          while (cells.length < width) cells.push('');
          while (cells.length > width && cells.at(-1) === '') cells.pop();
          if (cells.every((cell) => cell === '')) return;
          if (sink.row(cells, line)) width = cells.length;
        },
      });
    } finally {
      workbook.close();
    }
  } catch (error) {
    if (!(error instanceof WorkbookProblem)) throw error;
    report(error.found);
  }
}
