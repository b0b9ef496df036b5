import type { DocumentView, FiguresView, StatementView, WorkspaceView } from '@margin-lens/contract';

const RUNS = 15;

/** Asks the interface: a method, an address below /api/v1 and what is sent. */
export type Ask = <T>(method: string, url: string, body?: object) => Promise<T>;

/** What is written before a statement is asked for. */
interface Write {
  what: string;
  write(run: number): Promise<unknown>;
}

/**
 * The first statement after a write: of a remark, a kept layout and a typed figure of a plan. Gives the median of both,
 * in milliseconds.
 */
export async function afterWrites(
  ask: Ask,
  scope: { scope: string; as_at: string },
): Promise<{ what: string; writeMs: number; statementMs: number }[]> {
  const query = new URLSearchParams({ ...scope, columns: 'twelve_months' });
  const statement = () => ask<StatementView>('GET', `/statements/income_statement?${query}`);
  const result = [];
  for (const { what, write } of await writes(ask, scope)) {
    const times: [number, number][] = [];
    for (let run = 0; run < RUNS; run++) {
      await statement();
      const started = performance.now();
      await write(run);
      const written = performance.now();
      await statement();
      times.push([written - started, performance.now() - written]);
    }
    const median = (at: 0 | 1) => times.map((pair) => pair[at]).sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
    result.push({ what, writeMs: median(0), statementMs: median(1) });
  }
  return result;
}

async function writes(ask: Ask, { scope, as_at }: { scope: string; as_at: string }): Promise<Write[]> {
  const { versions } = await ask<WorkspaceView>('GET', '/workspace');
  const remark = {
    scope,
    period: `FY${as_at.replace('-', '-P')}`,
    statement: 'income_statement',
    row: '',
    column: '',
    columns: '',
    quotes: [],
    state: 'open',
    carries: '',
  };
  const layout = '/documents/column_layout/twelve_months';
  const { code } = await ask<{ code: string }>('POST', '/versions', {
    ...{ name: 'Bench', kind: 'plan', from: versions[0]!.from, to: versions[0]!.from },
    ...{ cutOver: '', parent: '', copyOf: '', opening: null },
  });
  const place = `version=${code}&scope=${scope}&from=${versions[0]!.from}&to=${versions[0]!.from}`;
  await ask<FiguresView>('GET', `/figures?${place}`);
  return [
    { what: 'a remark', write: (run) => ask('POST', '/remarks', { ...remark, text: `Remark ${run}` }) },
    {
      what: 'a kept layout',
      write: async (run) => {
        const { document, base } = await ask<DocumentView>('GET', layout);
        await ask('POST', `${layout}/keep`, { document: { ...document, note: `Kept ${run}` }, base });
      },
    },
    {
      what: 'a typed plan figure',
      write: (run) =>
        ask('PUT', `/versions/${code}/figures`, {
          ...{ scope, how: 'typed', label: '' },
          cells: [{ account: '6400', combination: '\u001f', period: versions[0]!.from, before: run, after: run + 1 }],
        }),
    },
  ];
}
