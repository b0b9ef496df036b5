import { stratify, tree } from 'd3-hierarchy';
import type { StructureView } from '@margin-lens/contract';

type Entity = StructureView['entities'][number];

/** Width and height of a box, and what lies between two of them, in pixels. */
export const BOX = { width: 148, height: 44 };
const GAP = { across: 14, down: 34 };

export interface Layout {
  /** Left and top of each box, by the code of its entity. */
  boxes: { entity: Entity; left: number; top: number }[];
  /** Paths from holders down to what they hold; those beside the main one are drawn lighter. */
  lines: { path: string; isMain: boolean }[];
  width: number;
  height: number;
}

/** The holder that an entity stands below: the one with the largest share, the first of several. */
const mainHolder = ({ holders }: Entity): string | undefined =>
  holders.reduce<Entity['holders'][number] | undefined>(
    (main, each) => (main && main.percent >= each.percent ? main : each),
    undefined,
  )?.code;

/** The entities of a group as a tree from the head down, each once; further holders are joined by lines. */
export function layOut(entities: readonly Entity[]): Layout {
  const [head, ...others] = entities;
  if (!head) return { boxes: [], lines: [], width: 0, height: 0 };
  const root = stratify<Entity>()
    .id(({ code }) => code)
    .parentId((each) => (each === head ? undefined : (mainHolder(each) ?? head.code)))([head, ...others]);
  const laid = tree<Entity>()
    .nodeSize([BOX.width + GAP.across, BOX.height + GAP.down])
    .separation(() => 1)(root);
  const nodes = laid.descendants();
  const left = Math.min(...nodes.map(({ x }) => x));
  const boxes = nodes.map(({ data, x, y }) => ({ entity: data, left: x - left, top: y }));
  const boxOf = new Map(boxes.map((box) => [box.entity.code, box]));
  return {
    boxes,
    lines: boxes.flatMap(({ entity, left: x, top }) =>
      entity.holders.map(({ code }) => {
        const above = boxOf.get(code)!;
        const [from, to] = [above.left + BOX.width / 2, x + BOX.width / 2];
        const [start, turn] = [above.top + BOX.height, top - GAP.down / 2];
        return { path: `M${from},${start}V${turn}H${to}V${top}`, isMain: code === mainHolder(entity) };
      }),
    ),
    width: Math.max(...boxes.map((box) => box.left)) + BOX.width,
    height: Math.max(...boxes.map((box) => box.top)) + BOX.height,
  };
}
