import { issue, type Issue } from '../issue/issue';
import type { TableRow } from './check-table';
import type { ResourceSpec } from './resource-spec';

/** A rate that moves by more than this share from one period to the next is pointed out. Range: over 0. */
const RATE_JUMP_PERCENT = 10;

/**
 * Points out rates that jump from one period to the next, as one quoted the other way round does.
 * @source common practice: a limit of 10 % a month
 */
export function checkRates(resource: ResourceSpec, rows: readonly TableRow[]): Issue[] {
  const at = (name: string) => resource.columns.findIndex((column) => column.name === name);
  const [set, base, quote, period, type, rate] = ['set', 'base', 'quote', 'period', 'type', 'rate'].map(at);
  const dated = rows.filter(({ cells }) => cells[period!] !== '');
  const inOrder = [...dated].sort((a, b) => (a.cells[period!]! < b.cells[period!]! ? -1 : 1));
  const before = new Map<string, number>();
  const found: Issue[] = [];
  for (const { cells, line } of inOrder) {
    const key = [set, base, quote, type].map((index) => cells[index!]).join('|');
    const [was, now] = [before.get(key), Number(cells[rate!])];
    if (was !== undefined && Math.abs(now / was - 1) * 100 > RATE_JUMP_PERCENT) {
      const params = { rate: cells[rate!]!, before: was, limit: RATE_JUMP_PERCENT };
      found.push(issue('CORE_RATE_JUMP', params, { file: resource.file, line, column: 'rate' }));
    } else before.set(key, now);
  }
  return found;
}
