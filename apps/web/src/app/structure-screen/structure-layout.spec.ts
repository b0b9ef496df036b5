import type { StructureView } from '@margin-lens/contract';
import { BOX, layOut } from './structure-layout';

type Entity = StructureView['entities'][number];

const entity = (code: string, ...holders: [string, number][]): Entity => ({
  ...{ code, name: code, currency: 'EUR', method: holders.length === 0 ? 'top' : 'full' },
  holders: holders.map(([investor, percent]) => ({ code: investor, name: investor, percent })),
  ...{ effective: 0, others: 0, votes: 0, heads: [], question: null },
});

describe('the tree of a group', () => {
  it('stands below the head, side by side without lying over each other', () => {
    const { boxes, lines, width } = layOut([entity('TOP'), entity('A', ['TOP', 100]), entity('B', ['TOP', 80])]);
    const [top, a, b] = boxes;
    expect(a!.top).toBe(b!.top);
    expect(a!.top).toBeGreaterThan(top!.top + BOX.height);
    expect(b!.left - a!.left).toBeGreaterThan(BOX.width);
    expect(top!.left).toBe((a!.left + b!.left) / 2);
    expect(width).toBe(b!.left + BOX.width);
    expect(lines.map(({ isMain }) => isMain)).toEqual([true, true]);
  });

  it('puts an entity below its largest holder, and joins the others', () => {
    const { boxes, lines } = layOut([entity('TOP'), entity('A', ['TOP', 80]), entity('B', ['TOP', 20], ['A', 50])]);
    expect(boxes.map(({ entity: { code }, top }) => [code, top])).toEqual([
      ['TOP', 0],
      ['A', 78],
      ['B', 156],
    ]);
    expect(lines.map(({ isMain }) => isMain)).toEqual([true, false, true]);
  });

  it('is empty where nothing may be seen, and holds what is held by someone hidden below the head', () => {
    expect(layOut([])).toEqual({ boxes: [], lines: [], width: 0, height: 0 });
    const { boxes } = layOut([entity('TOP'), { ...entity('A'), method: 'full' }]);
    expect(boxes.map(({ top }) => top)).toEqual([0, 78]);
  });
});
