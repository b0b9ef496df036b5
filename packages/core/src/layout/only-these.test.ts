import type { Breakdown } from './breakdown-document';
import { onlyThese } from './only-these';

const PLAIN: Breakdown = { of: ['sales'], down: [{ by: 'product' }, { by: 'channel' }], across: [] };
const OTHERS = { ...PLAIN, where: [{ dimension: 'region', has: 'any' as const, values: [] }] };

describe('only these values', () => {
  it('are a demand on their field, and on what they stand below', () => {
    expect(onlyThese(OTHERS, ['product:tiles', 'product:gift%20sets'])!.where).toEqual([
      { dimension: 'region', has: 'any', values: [] },
      { dimension: 'product', has: 'in', values: ['tiles', 'gift sets'] },
    ]);
    expect(onlyThese(PLAIN, ['product:tiles.channel:web', 'product:tiles.channel:shop'])!.where).toEqual([
      { dimension: 'product', has: 'in', values: ['tiles'] },
      { dimension: 'channel', has: 'in', values: ['web', 'shop'] },
    ]);
    // where a value hangs is no part of the demand
    expect(onlyThese(PLAIN, ['product:tiles:wall'])!.where).toMatchObject([{ values: ['tiles'] }]);
  });

  it('take the place of what was asked of the field before', () => {
    const narrowed = onlyThese(PLAIN, ['product:tiles'])!;
    expect(onlyThese(narrowed, ['product:vases'])!.where).toEqual([
      { dimension: 'product', has: 'in', values: ['vases'] },
    ]);
  });

  it('are values of one field below one value, and nothing that stands together', () => {
    for (const keys of [
      [],
      ['product:tiles', 'product:vases.channel:web'],
      ['product:tiles.channel:web', 'product:vases.channel:web'],
      ['product:tiles', 'product:*none'],
      ['product:*rest'],
    ])
      expect(onlyThese(PLAIN, keys)).toBeUndefined();
  });
});
