import type { Field, FieldValue } from './fields';
import { CHOOSE_ALL, layOut, type Laid } from './lay-out';

const value = (name: string, parent = ''): FieldValue => ({ value: name, name, parent, isPosted: true });
const field = (by: string, values: readonly FieldValue[], none?: string): Field => ({
  ...{ by, name: by, values, none, isOfLines: false, isTime: false, addsUp: true },
});

const NUMBERS = Array.from({ length: 10 }, (_, n) => value(`n${n}`));
const FIELDS = [
  field('number', NUMBERS, 'no number'),
  field(
    'letter',
    ['a', 'b', 'c'].map((letter) => value(letter)),
  ),
];
const AXES = [{ by: 'number' }, { by: 'letter' }];

const laid = (most: number, open: readonly string[] = []) => {
  const { places, isCut } = layOut(AXES, FIELDS, { open: [...open] }, CHOOSE_ALL, most);
  return {
    isCut,
    places: places.map(({ label, depth, isOpen }) => `${'>'.repeat(depth)}${label}${isOpen ? ' open' : ''}`),
    all: places,
  };
};

/** The numbers that count in what stands at the top, each as often as it does. */
const counted = (places: readonly Laid[]) =>
  places
    .filter(({ depth }) => depth === 0)
    .flatMap(({ path }) => path[0]!.demands.flatMap(({ has, values }) => (has === 'in' ? values : [])))
    .sort();

describe('values for which there is no room', () => {
  it('stand together behind the others, and all of them still count once', () => {
    const { places, isCut, all } = laid(5);
    expect(places).toEqual(['n0', 'n1', 'n2', '7 others', 'no number']);
    expect(isCut).toBe(true);
    expect(counted(all)).toEqual(NUMBERS.map((each) => each.value).sort());
  });

  it('are none where all of them fit', () => {
    expect(laid(11)).toMatchObject({ isCut: false });
    expect(laid(11).places).toHaveLength(11);
  });

  it('leave what would be open closed, or tell a part of it apart', () => {
    const { places, isCut } = laid(16, ['+1']);
    expect(isCut).toBe(true);
    expect(places.slice(0, 7)).toEqual(['n0 open', '>a', '>b', '>c', 'n1 open', '>a', '>2 others']);
    expect(places.slice(7)).toEqual([...NUMBERS.slice(2).map((each) => each.value), 'no number']);
  });

  it('are not told apart again where they are opened and still do not fit', () => {
    const { places, isCut } = laid(5, ['number:*rest']);
    expect(isCut).toBe(true);
    expect(places).toEqual(['n0', 'n1', 'n2', '7 others', 'no number']);
  });
});
