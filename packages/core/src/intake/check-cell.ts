import { LONGEST_TEXT } from './longest-text';
import { minorDigits } from '../currency/minor-units';
import { issue, type Issue, type Place } from '../issue/issue';
import { isIsoDate, parsePeriodKey } from '../period/fiscal-calendar';
import type { ColumnSpec } from './resource-spec';

const DECIMAL = /^-?\d+(\.\d+)?$/;

/** The finding about a cell's text, or undefined when it is as its column wants it. Empty optional cells are fine. */
export function checkCell(column: ColumnSpec, text: string, place: Place): Issue | undefined {
  if (text === '') return column.required ? issue('CORE_CELL_EMPTY', { column: column.name }, place) : undefined;
  if (column.choices && !column.choices.includes(text)) {
    return issue('CORE_CELL_CHOICE', { text, choices: column.choices.join(', ') }, place);
  }
  switch (column.type) {
    case 'integer':
      return /^-?\d{1,9}$/.test(text) ? undefined : issue('CORE_CELL_INTEGER', { text }, place);
    case 'decimal':
      return DECIMAL.test(text) ? undefined : issue('CORE_CELL_NUMBER', { text }, place);
    case 'percent':
      if (!DECIMAL.test(text)) return issue('CORE_CELL_NUMBER', { text }, place);
      return Number(text) >= 0 && Number(text) <= 100 ? undefined : issue('CORE_OWNERSHIP_RANGE', { text }, place);
    case 'rate':
      if (!DECIMAL.test(text)) return issue('CORE_CELL_NUMBER', { text }, place);
      return Number(text) > 0 ? undefined : issue('CORE_RATE_NOT_POSITIVE', { text }, place);
    case 'date':
      return isIsoDate(text) ? undefined : issue('CORE_CELL_DATE', { text }, place);
    case 'period':
      return parsePeriodKey(text) ? undefined : issue('CORE_CELL_PERIOD', { text }, place);
    case 'currency':
      return minorDigits(text) === undefined ? issue('CORE_CELL_CURRENCY', { text }, place) : undefined;
    case 'code':
      if (!/^[\p{L}\p{N}]/u.test(text)) return issue('CORE_CELL_CODE', { text }, place);
      return lengthOf(column, text, place);
    case 'text':
      return lengthOf(column, text, place);
  }
}

const lengthOf = ({ name }: ColumnSpec, text: string, place: Place): Issue | undefined =>
  text.length > LONGEST_TEXT
    ? issue('CORE_CELL_LONG', { column: name, length: text.length, limit: LONGEST_TEXT }, place)
    : undefined;
