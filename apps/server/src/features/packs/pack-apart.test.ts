import type { PackSince } from '@margin-lens/contract';
import type { PackDocument } from '@margin-lens/core';
import { adjust } from '../../../test/adjusting';
import { CONTEXT, PACK, packFiles, page, servedPacks } from '../../../test/served-packs';
import { FiguresThread } from '../workspace/figures-thread';

const { ask, serve, served, previewed, exported } = servedPacks();

const BY_TEAM = {
  ...{ schema: 1, kind: 'breakdown', id: 'by_team', name: 'By team', rows: 'income_statement', unit: 1 },
  ...{ columns: 'month_and_year_to_date', breakdown: { of: ['rent'], down: [{ by: 'team' }], across: [] } },
};
const ALL: PackDocument = { ...PACK, pages: [...PACK.pages, page('by_team'), page('gone')] };
const FILES = { ...packFiles(ALL), 'breakdowns/by_team.json': JSON.stringify(BY_TEAM) };

/** What is said of a pack that tells of nothing but the pack. */
async function told() {
  const { madeInMs: _, movedAt: __, ...view } = await previewed(ALL);
  // charts are numbered as they are drawn, and the foot says when
  const html = (await exported('html')).toString().replaceAll(/zr\d+-(cls-|c)\d+|made [\d-]+ [\d:]+ UTC/g, '');
  // sales of January after its pack was issued: its pages are made as they were at that revision, too
  const issued = await ask('POST', '/packs/monthly/issues', { scope: 'ONE', as_at: '2026-01', isIssued: true });
  expect([issued.status, (await adjust(ask, '2026-01-31', '4000', '10.00')).status]).toEqual([204, 200]);
  const { body: since } = await ask<PackSince>('POST', '/packs/since', { pack: ALL, context: CONTEXT });
  return { view, html, since: since.pages };
}

describe('a pack of a large workspace', () => {
  it('is the same as one that is made at once, and all its pages with figures are made by the thread', async () => {
    await serve(FILES);
    const atOnce = await told();
    await served.app.close();
    const asked = jest.spyOn(FiguresThread.prototype, 'ask');
    await serve(FILES, { answeredAtOnce: 0 });
    expect(await told()).toEqual(atOnce);
    const made = asked.mock.calls.map(([, { id }]) => id);
    asked.mockRestore();
    const withFigures = ALL.pages.filter(({ kind }) => kind !== 'cover' && kind !== 'contents' && kind !== 'section');
    expect(new Set(made)).toEqual(new Set(withFigures.map(({ id }) => id)));
    expect(atOnce.view.pages.find(({ id }) => id === 'gone')!.problem).toContain('There is no statement “gone”.');
    expect(atOnce.since.flatMap(({ moved }) => moved)).not.toEqual([]);
  });
});
