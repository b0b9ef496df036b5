import type { PackView } from '@margin-lens/contract';
import type { PackDocument, PackPage } from '@margin-lens/core';
import { servedPackage } from './served-app';
import { tinyFiles } from './tiny-package';

/** What someone wrote, as it is kept. */
export const text = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] });

/** A page of figures. */
export const page = (of: string, more: Partial<PackPage> = {}): PackPage =>
  ({ kind: 'figures', id: of, of, ...more }) as PackPage;

/** A pack with a page of each kind. */
export const PACK = {
  ...{ schema: 1, kind: 'pack', id: 'monthly', name: 'Monthly', footer: 'For the board' },
  pages: [
    { kind: 'cover', id: 'cover', lines: ['To be read first'] },
    { kind: 'contents', id: 'contents', title: 'Contents' },
    { kind: 'section', id: 'results', title: 'Results' },
    page('income_statement'),
    { kind: 'chart', id: 'drawn', of: 'income_statement', row: 'sales', follows: true },
    { kind: 'exceptions', id: 'moved', of: 'income_statement' },
    { kind: 'tiles', id: 'tiles', title: 'At a glance', tiles: [{ of: 'income_statement', cell: 'sales~ytd' }] },
    {
      ...{ kind: 'text', id: 'words', title: 'Outlook' },
      body: text(
        { type: 'text', text: 'Sales are ' },
        { type: 'figure', attrs: { key: 'f1' } },
        { type: 'text', text: ' <script>alert(1)</script>' },
      ),
      quotes: [
        {
          ...{ key: 'f1', of: 'income_statement', cell: 'sales~ytd', amount: 1000_00, shown: '1,000' },
          context: { columns: 'month_and_year_to_date' },
          at: { scope: 'ONE', as_at: '2026-02' },
        },
      ],
    },
    page('balance_sheet'),
  ] as PackPage[],
} as PackDocument;

/** A package of two entities, with packs. */
export const packFiles = (...packs: PackDocument[]) =>
  tinyFiles({
    'entities.csv': 'code,name,currency,calendar\nONE,First Ltd,EUR,cal\nTWO,Second KK,EUR,cal\n',
    'ownership.csv': 'investor,investee,from,percent,method\n',
    'journals.csv': [
      String(tinyFiles()['journals.csv']).trimEnd(),
      'TWO,T1,,1,2026-02-03,,1000,77.00,,,Sales,',
      'TWO,T1,,2,2026-02-03,,4000,,77.00,,Sales,',
      '',
    ].join('\n'),
    ...Object.fromEntries(packs.map((pack) => [`packs/${pack.id}.json`, JSON.stringify(pack)])),
  });

/** What packs are read for. */
export const CONTEXT = { scope: 'ONE', as_at: '2026-02' };

/** An application on the package that a test brings in, with what previews a pack and takes it out. */
export function servedPacks() {
  const { ask, serve, served } = servedPackage();

  async function previewed(pack: PackDocument = PACK, context: Record<string, string> = CONTEXT): Promise<PackView> {
    const { status, body } = await ask<PackView>('POST', '/packs/preview', { pack, context });
    if (status !== 200) throw new Error(JSON.stringify(body));
    return body;
  }

  const exported = async (format: string, context: Record<string, string> = CONTEXT): Promise<Buffer> => {
    const query = new URLSearchParams({ ...context, format });
    const reply = await served.app.inject(`/api/v1/packs/monthly/export?${query}`);
    if (reply.statusCode !== 200) throw new Error(reply.body);
    return reply.rawPayload;
  };

  return { ask, serve, served, previewed, exported };
}

type TextMark = Extract<PackView['sheets'][number]['marks'][number], { kind: 'text' }>;
/** The words on each sheet of a pack. */
export const wordsOf = ({ sheets }: PackView): string[][] =>
  sheets.map(({ marks }) =>
    marks
      .filter((mark): mark is TextMark => mark.kind === 'text')
      .flatMap((mark) => mark.text.split(/\s+/).filter(Boolean)),
  );
