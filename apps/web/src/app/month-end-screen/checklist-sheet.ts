import type { ClosingList, ClosingTask } from '@margin-lens/core';
import { nextFree } from '../shared/listed';
import type { RowProblems } from '../shared/sheet/sheet';
import type { Cells, DraftRow, SheetColumn } from '../shared/sheet/sheet-model';

const AT = { id: 0, name: 1, day: 2, owner: 3, scope: 4, note: 5 } as const;
export const CELLS = Object.keys(AT).length;

export const cellsOf = ({ id, name, day, owner, scope, note }: ClosingTask): Cells => [
  ...[id, name, day > 0 ? `+${day}` : String(day)],
  ...[owner, scope, note],
];

/** A list to begin with, of what every close has. @source common practice */
export const PROPOSED: readonly Cells[] = [
  ['', 'Sub-ledgers closed', '+1', '', '', ''],
  ['', 'Accruals and prepayments posted', '+2', '', '', ''],
  ['', 'Depreciation posted', '+2', '', '', ''],
  ['', 'Balances between entities agreed', '+3', '', '', ''],
  ['', 'Balance sheet held against evidence', '+4', '', '', ''],
  ['', 'Variances explained', '+5', '', '', ''],
  ['', 'Pack issued', '+6', '', '', ''],
];

export const columnsOf = (people: readonly string[], scopes: readonly string[]): SheetColumn[] => [
  { name: 'name', label: 'Task', at: AT.name, width: 'minmax(200px, 3fr)' },
  {
    ...{ name: 'day', label: 'Working day', at: AT.day, width: '96px', isNumber: true },
    hint: '+1 is the first working day behind the month’s end, 0 the month’s last one, −1 the one before',
  },
  { name: 'owner', label: 'Owner', at: AT.owner, width: '120px', suggestions: people },
  {
    ...{ name: 'scope', label: 'Of', at: AT.scope, width: '110px', choices: scopes },
    hint: 'Code of an entity or group; each entity where it is left empty',
  },
  { name: 'note', label: 'Note', at: AT.note, width: 'minmax(140px, 2fr)' },
];

/** Working days as people write them, before and behind the month's end. @example dayOf('−2') // -2 */
function dayOf(text: string): number | undefined {
  const plain = text.trim().replace('−', '-').replace(/^\+/, '');
  const day = Number(plain);
  return /^-?\d{1,2}$/.test(plain) && Math.abs(day) <= 45 ? day : undefined;
}

export function problemsOf(rows: readonly DraftRow[], scopes: ReadonlySet<string>): RowProblems {
  const found = new Map<number, Map<string, string>>();
  for (const { id, cells, isRemoved } of rows) {
    if (isRemoved) continue;
    const said = new Map<string, string>();
    if (cells[AT.name]!.trim() === '') said.set('name', 'Say what is to be done');
    if (dayOf(cells[AT.day]!) === undefined) said.set('day', 'A working day from −45 to +45');
    const scope = cells[AT.scope]!.trim();
    if (scope !== '' && !scopes.has(scope)) said.set('scope', `There is no entity or group ${scope}`);
    if (said.size > 0) found.set(id, said);
  }
  return found;
}

/** The tasks as they are to be; new ones get ids that no task has or had. */
export function tasksOf(rows: readonly DraftRow[]): ClosingList['tasks'] {
  const taken = new Set(rows.map(({ cells }) => cells[AT.id]!));
  return rows
    .filter(({ isRemoved }) => !isRemoved)
    .map(({ cells }) => {
      const id = cells[AT.id]! || nextFree('task_', taken);
      taken.add(id);
      return {
        ...{ id, name: cells[AT.name]!.trim(), owner: cells[AT.owner]!.trim(), day: dayOf(cells[AT.day]!)! },
        ...{ scope: cells[AT.scope]!.trim(), note: cells[AT.note]!.trim() },
      };
    });
}
