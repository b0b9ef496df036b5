import type { StatementView } from '@margin-lens/contract';
import { SAMPLE_VIEW } from '../testing/sample-view';
import { toExplainOf } from './lens-remarks';

const CONTEXT = { periods: [], asAt: { ordinal: 5 } } as never;

describe('the variance beside a cell', () => {
  const row = SAMPLE_VIEW.rows.find(({ cells }) => cells.length > 0)!;
  const of = (better: 'up' | 'down' | undefined, cell: string) => {
    const { better: _, ...plain } = row;
    const rows: StatementView['rows'] = [{ ...plain, ...(better && { better }) }];
    return toExplainOf({ ...SAMPLE_VIEW, rows }, `${row.id}~${cell}`, CONTEXT)?.effect;
  };
  const at = SAMPLE_VIEW.columns.findIndex(({ kind }) => kind === 'difference');
  const change = row.cells[at]!.amount!;
  const [figure] = SAMPLE_VIEW.columns.filter(({ block }) => block === SAMPLE_VIEW.columns[at]!.block);

  it('is what it does to profit, from the change itself or from a figure that stands with it', () => {
    expect(of('up', SAMPLE_VIEW.columns[at]!.id)).toBe(change);
    expect(of('down', figure!.id)).toBe(-change);
  });

  it('is none in another currency than that of its scope', () => {
    const rows: StatementView['rows'] = [{ ...row, better: 'up' }];
    const elsewhere = { ...SAMPLE_VIEW, rows, scope: { ...SAMPLE_VIEW.scope, currency: 'USD' } };
    expect(toExplainOf(elsewhere, `${row.id}~${figure!.id}`, CONTEXT)).toBeUndefined();
  });

  it('is none of a row that does profit neither good nor harm', () => {
    expect(of(undefined, figure!.id)).toBeUndefined();
  });
});
