import type { FastifyInstance } from 'fastify';
import JSZip from 'jszip';
import type { PackView, StatementView } from '@margin-lens/contract';
import type { BreakdownDocument, ChartKind, PackDocument } from '@margin-lens/core';
import { demoWorkspace } from '../../../test/demo-workspace';
import { pdfWords } from '../../../test/pdf-text';
import { printed } from '../../../test/recalculate';
import { describeWith } from '../../../test/tools';
import { buildApp } from '../../app';

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();
const AT = 'scope=LARKMOOR&as_at=2026-08';
const THOUSANDS = 100_000;

/** Net sales by product line as a chart of one kind; `across` stands in the columns. */
const drawn = (chart: ChartKind, columns: string, across?: string): BreakdownDocument => ({
  ...{ schema: 1, kind: 'breakdown', id: `drawn_${chart}`, name: `Drawn ${chart}`, unit: 1000 },
  ...{ rows: 'income_by_function', columns },
  breakdown: {
    ...{ shows: 'both', chart, of: ['net_sales'], down: [{ by: 'product_line' }] },
    across: across ? [{ by: across }] : [],
  },
});
const MONTHS = 'months_against_plan';
const COMPARED = 'plan_comparison';
const DRAWN = [
  drawn('bars', COMPARED, 'channel'),
  drawn('heat_map', COMPARED, 'channel'),
  drawn('stacked', COMPARED, 'channel'),
  drawn('pareto', COMPARED),
  drawn('treemap', COMPARED),
  drawn('lines', MONTHS),
  drawn('stacked_months', MONTHS),
];
const PACK: PackDocument = {
  ...{ schema: 1, kind: 'pack', id: 'drawn', name: 'Drawn' },
  pages: DRAWN.map(({ id }) => ({ kind: 'figures', id, of: id })),
};

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent' });
  for (const document of [...DRAWN, PACK]) {
    const reply = await app.inject({ method: 'POST', url: '/api/v1/documents', payload: { document } });
    if (reply.statusCode >= 300) throw new Error(reply.body);
  }
});
afterAll(() => app.close());

interface ReadSeries {
  name: string;
  categories: string[];
  values: (number | null)[];
}

/** The charts of an office file, by their numbers, each with its series. */
async function chartsOf(file: Buffer, folder: string): Promise<ReadSeries[][]> {
  const zip = await JSZip.loadAsync(file);
  const paths = Object.keys(zip.files).filter((each) => new RegExp(`^${folder}/charts/chart\\d+\\.xml$`).test(each));
  const numberIn = (path: string) => Number(/\d+/.exec(path)![0]);
  const parts = await Promise.all(
    paths.sort((a, b) => numberIn(a) - numberIn(b)).map((each) => zip.file(each)!.async('string')),
  );
  return parts.map((part) =>
    [...part.matchAll(/<c:ser>.*?<\/c:ser>/g)].map(([series]) => {
      const [name, categories, values] = ['tx', 'cat', 'val'].map((tag) => pointsOf(series, tag));
      return { name: name![0]!, categories: categories!, values: values!.map((each) => (each === '' ? null : +each)) };
    }),
  );
}

function pointsOf(series: string, tag: string): string[] {
  const held = new RegExp(`<c:${tag}>.*?</c:${tag}>`).exec(series)![0];
  const points = Array<string>(Number(/<c:ptCount val="(\d+)"/.exec(held)![1])).fill('');
  for (const [, at, value] of held.matchAll(/<c:pt idx="(\d+)"><c:v>(.*?)<\/c:v>/g)) points[Number(at)] = value!;
  return points;
}

const exported = async (format: string): Promise<Buffer> => {
  const reply = await app.inject(`/api/v1/packs/drawn/export?${AT}&format=${format}`);
  if (reply.statusCode !== 200) throw new Error(reply.body);
  return reply.rawPayload;
};

/** Figures of the values of a breakdown in its columns of one kind, in thousands, column by column. */
async function columnsOf(id: string, isWanted: (id: string) => boolean): Promise<(number | null)[][]> {
  const { columns, rows } = (await app.inject(`/api/v1/statements/${id}?${AT}`)).json<StatementView>();
  const values = rows.filter(({ branch }) => branch);
  return columns.flatMap((column, at) =>
    isWanted(column.id) ? [values.map(({ cells }) => inThousands(cells[at]!.amount))] : [],
  );
}
const inThousands = (amount: number | null) => (amount === null ? null : amount / THOUSANDS);

const FILES = { pptx: 'ppt', docx: 'word', xlsx: 'xl' } as const;

describe.each(Object.entries(FILES))('charts of a pack as %s', (format, folder) => {
  let charts: ReadSeries[][];
  beforeAll(async () => {
    charts = await chartsOf(await exported(format), folder);
  });

  it('are charts, several where values stand across the page', () => {
    expect(charts).toHaveLength(4 + 6);
    expect(charts[0]![0]!.categories).toEqual(['Tableware', 'Tiles', 'Studio pieces', 'Contract pieces']);
  });

  it('hold the figures of their tables, against the plan and value by value', async () => {
    const actual = await columnsOf('drawn_bars', (id) => id.startsWith('ytd.'));
    const plan = await columnsOf('drawn_bars', (id) => id.startsWith('ytd_plan.'));
    expect(charts.slice(0, 4).map(([base, now]) => [base!.values, now!.values])).toEqual(
      actual.map((values, at) => [plan[at], values]),
    );
    // the map, and the parts that stand on each other
    for (const chart of [charts[4]!, charts[5]!]) expect(chart.map(({ values }) => values)).toEqual(actual);
    expect(charts[5]!.map(({ name }) => name)).toEqual(['Retail', 'Wholesale', 'Online', 'Projects']);
  });

  it('rank values with the share that they make up together, and hold areas as bars', async () => {
    const [values] = await columnsOf('drawn_pareto', (id) => id === 'ytd');
    const ranked = [...values!].map(Number).sort((a, b) => b - a);
    const [bars, shares] = charts[6]!;
    expect(bars!.values).toEqual(ranked);
    const total = ranked.reduce((sum, each) => sum + each, 0);
    let sum = 0;
    expect(shares!.values).toEqual(ranked.map((each) => expect.closeTo((sum += each) / total, 10)));
    expect(charts[7]![0]!.values).toEqual(values);
  });

  it('go over the months, a line or a part to each value', async () => {
    const months = await columnsOf('drawn_lines', (id) => /^now\.p\d/.test(id));
    const byValue = months[0]!.map((_, value) => months.map((month) => month[value]));
    for (const chart of [charts[8]!, charts[9]!]) expect(chart.map(({ values }) => values)).toEqual(byValue);
  });
});

describeWith('soffice', 'wide tables of documents and slides', () => {
  it('are broken by columns: every figure of the preview stands whole', async () => {
    const files = { 'wide.docx': await exported('docx'), 'wide.pptx': await exported('pptx') };
    const preview = await app.inject({
      ...{ method: 'POST', url: '/api/v1/packs/preview' },
      payload: { pack: PACK, context: { scope: 'LARKMOOR', as_at: '2026-08' } },
    });
    const wanted = preview
      .json<PackView>()
      .sheets.flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : [])))
      .filter((text) => /^\(?[\d,]+\.?\d*\)?$/.test(text) && text.length > 3);
    expect(wanted.length).toBeGreaterThan(300);
    for (const [name, pdf] of Object.entries(printed(files))) {
      const words = new Set(pdfWords(pdf).flat());
      expect([name, wanted.filter((word) => !words.has(word))]).toEqual([name, []]);
    }
  });
});
