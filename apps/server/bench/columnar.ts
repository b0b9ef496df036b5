import { DuckDBInstance, type DuckDBConnection } from '@duckdb/node-api';

/** The same lines in a columnar SQL engine: how long it takes to load them with types, and to add them up. */
export interface Columnar {
  loadMs: number;
  lines: number;
  /** Sums of one entity by account and month, and by dimensions, in milliseconds (median). */
  accountAndMonth: number;
  twoDimensions: number;
  threeAndMonth: number;
}

const RUNS = 7;

async function median(connection: DuckDBConnection, sql: string): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const started = performance.now();
    await (await connection.runAndReadAll(sql)).getRows();
    times.push(performance.now() - started);
  }
  return times.sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
}

/** Brings the journal lines of a package into an engine in memory, and asks it. */
export async function columnar(journals: string, entity: string, dimensions: readonly string[]): Promise<Columnar> {
  const instance = await DuckDBInstance.create(':memory:');
  const connection = await instance.connect();
  try {
    const started = performance.now();
    await connection.run(
      `create table line as select * from read_csv('${journals}', header = true, all_varchar = false,
         types = {'debit': 'DECIMAL(18,2)', 'credit': 'DECIMAL(18,2)', 'date': 'DATE', 'account': 'VARCHAR', 'journal': 'VARCHAR', 'period': 'VARCHAR', 'document': 'VARCHAR', 'description': 'VARCHAR'})`,
    );
    const loadMs = performance.now() - started;
    const [[count]] = (await (await connection.runAndReadAll('select count(*) from line')).getRows()) as [[bigint]];
    const month = "date_trunc('month', date)";
    const sums = 'sum(coalesce(debit, 0)) - sum(coalesce(credit, 0))';
    const [one, two, three] = dimensions.map((name) => `"dim:${name}"`);
    const by = (...keys: string[]) =>
      `select ${keys.join(', ')}, ${sums} from line where entity = '${entity}' group by all`;
    return {
      loadMs,
      lines: Number(count),
      accountAndMonth: await median(connection, by('account', month)),
      twoDimensions: await median(connection, by(one!, two!)),
      threeAndMonth: await median(connection, by(one!, two!, three!, month)),
    };
  } finally {
    connection.closeSync();
    instance.closeSync();
  }
}
