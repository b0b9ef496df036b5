import type { ColumnLayout, Row, RowLayout, StatementSource } from '@margin-lens/core';

/** Sixty rows: one an account set of a few numbers, with groups, results and ratios among them. */
export function sixtyRows(numbers: readonly string[]): RowLayout {
  const perRow = Math.ceil(numbers.length / 48);
  const sets = Array.from({ length: 48 }, (_, i) => numbers.slice(i * perRow, (i + 1) * perRow)).filter(
    (set) => set.length > 0,
  );
  const rows = sets.map((set, i): Row => ({
    kind: 'accounts',
    id: `a${i}`,
    label: `Accounts ${i}`,
    orientation: 'credit',
    accounts: { include: set.map((number) => ({ by: 'account', number })) },
  }));
  const groups = Array.from({ length: 6 }, (_, g): Row => ({
    kind: 'group',
    id: `g${g}`,
    label: `Group ${g}`,
    orientation: 'credit',
    children: rows.slice(g * 8, (g + 1) * 8),
  }));
  const result: Row = {
    kind: 'formula',
    id: 'result',
    label: 'Result',
    style: 'result',
    formula: groups.map(({ id }) => `{${id}}`).join(' + '),
  };
  const ratios = groups.slice(0, 5).map(({ id }, i): Row => ({
    kind: 'ratio',
    id: `r${i}`,
    label: `Ratio ${i}`,
    numerator: id,
    denominator: 'result',
  }));
  return {
    schema: 1,
    kind: 'row_layout',
    id: 'sixty',
    name: 'Sixty',
    purpose: 'free',
    shareBase: 'g0',
    result: 'result',
    rows: [...groups, result, ...ratios],
  };
}

/** Three hundred rows: totals of ten details, and ratios of them. */
export function manyRows(accounts: StatementSource['slice']['accounts']): RowLayout {
  const detail = (g: number, i: number): Row => ({
    kind: 'accounts',
    id: `d${g}_${i}`,
    label: `Detail ${g}.${i}`,
    orientation: 'credit',
    accounts: {
      include: accounts.filter((_, at) => at % 250 === g * 10 + i).map(({ number }) => ({ by: 'account', number })),
    },
  });
  const groups = Array.from({ length: 25 }, (_, g): Row => ({
    kind: 'group',
    id: `g${g}`,
    label: `Total ${g}`,
    orientation: 'credit',
    children: Array.from({ length: 10 }, (__, i) => detail(g, i)),
  }));
  const ratios = groups.map(({ id }, at): Row => ({
    kind: 'formula',
    id: `f${at}`,
    label: `Share ${at}`,
    formula: `{${id}} / {g0} * 100`,
  }));
  return { schema: 1, kind: 'row_layout', id: 'many', name: 'Many', purpose: 'free', rows: [...groups, ...ratios] };
}

/** Sixty columns: four years of months and changes against the year before. */
export const SIXTY_COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'sixty',
  name: 'Sixty',
  columns: [
    ...[0, 1, 2].map((yearsBack): ColumnLayout['columns'][number] => ({
      kind: 'series',
      id: `y${yearsBack}`,
      by: 'month',
      measure: 'movement',
      yearsBack,
      total: true,
    })),
    ...Array.from({ length: 21 }, (_, at): ColumnLayout['columns'][number] => ({
      kind: 'difference',
      id: `c${at}`,
      of: 'y0.total',
      base: 'y1.total',
    })),
  ],
};
