import type { ErrorReply, PackRunView, PackTarget } from '@margin-lens/contract';
import JSZip from 'jszip';
import { CONTEXT, PACK, packFiles, page, servedPacks } from '../../../test/served-packs';

const { ask, serve, served } = servedPacks();

describe('a pack for many', () => {
  const begin = async (targets: PackTarget[], format = 'pdf'): Promise<PackRunView> =>
    (await ask<PackRunView>('POST', '/packs/monthly/runs', { context: CONTEXT, format, targets })).body;
  const over = async (id: string): Promise<PackRunView> => {
    for (;;) {
      const { body } = await ask<PackRunView>('GET', `/packs/runs/${id}`);
      if (body.state !== 'running') return body;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };
  const filesOf = async (id: string) => {
    const reply = await served.app.inject(`/api/v1/packs/runs/${id}/files`);
    return reply.statusCode === 200 ? JSZip.loadAsync(reply.rawPayload) : undefined;
  };

  it('is a file for each entity, and says for which it could not be made and why', async () => {
    await serve(packFiles(PACK));
    const { id } = await begin([{ scope: 'ONE' }, { scope: 'THREE' }, { scope: 'TWO' }], 'html');
    const view = await over(id);
    expect(view).toMatchObject({ state: 'done', total: 3, made: ['First Ltd', 'Second KK'] });
    expect(view.failed.map(({ name, why }) => [name, why.slice(0, 39)])).toEqual([
      ['THREE', 'There is no entity or group “THREE”. Ch'],
    ]);
    const zip = (await filesOf(id))!;
    expect(Object.keys(zip.files)).toEqual(['monthly-one-fy2026-p02.html', 'monthly-two-fy2026-p02.html']);
    const second = await zip.file('monthly-two-fy2026-p02.html')!.async('string');
    expect(second).toContain('Second KK');
    expect(second).not.toContain('First Ltd');
  });

  it('is a file for each value of a dimension', async () => {
    await serve(packFiles({ ...PACK, pages: [page('income_statement')] }));
    const { id } = await begin([{ dimension: 'team', value: 'red' }], 'html');
    expect((await over(id)).made).toEqual(['Red']);
    const zip = (await filesOf(id))!;
    // sales of 1,000 were posted with the team, and the rent of 300
    expect(await zip.file('monthly-one-red-fy2026-p02.html')!.async('string')).toMatch(
      /Profit for the period.*?>700</s,
    );
  });

  it('is for none where a page of it cannot be made, and leaves nothing where it is cancelled', async () => {
    await serve(packFiles({ ...PACK, pages: [page('income_statement'), page('gone')] }));
    const { id } = await begin([{ scope: 'ONE' }]);
    const view = await over(id);
    expect(view.made).toEqual([]);
    expect(view.failed[0]!.why).toContain('There is no statement “gone”.');
    const many = await begin(Array.from({ length: 60 }, () => ({ scope: 'ONE' })));
    const second = await ask<ErrorReply>('POST', '/packs/monthly/runs', {
      context: CONTEXT,
      format: 'pdf',
      targets: [{ scope: 'ONE' }],
    });
    expect(second.body.code).toBe('SRV_PACK_RUN_UNDER_WAY');
    const { body: cancelled } = await ask<PackRunView>('DELETE', `/packs/runs/${many.id}`);
    expect(cancelled.state).toBe('cancelled');
    expect(await filesOf(many.id)).toBeUndefined();
  });
});
