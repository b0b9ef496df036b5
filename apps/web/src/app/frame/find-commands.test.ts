import { findCommands, type Command } from './find-commands';
import { placesFor } from './places';

const command = (kind: string, label: string, words = ''): Command => ({ kind, label, words, run: () => undefined });
const COMMANDS = [
  ...placesFor(true).map(({ name, words }) => command('Place', name, words)),
  command('Statement', 'Income statement'),
  command('Statement', 'Income statement, four quarters'),
  command('Columns', 'Four quarters', 'layout'),
  command('Account', '6400 Kiln gas'),
  command('Row', 'Energy · Income statement'),
  command('Scope', 'Larkmoor Tile (LMT)', 'entity company'),
];
const found = (text: string) => findCommands(COMMANDS, text, 5).map(({ label }) => label);

describe('findCommands', () => {
  it.each([
    ['budget', 'Versions'],
    ['materiality', 'Exceptions'],
    ['p&l', 'Statements'],
    ['close month', 'Periods'],
    ['import', 'Deliveries'],
    ['6400', '6400 Kiln gas'],
    ['gas', '6400 Kiln gas'],
    ['lmt', 'Larkmoor Tile (LMT)'],
    ['energy', 'Energy · Income statement'],
    ['income', 'Income statement'],
    ['four quarters', 'Income statement, four quarters'],
  ])('finds what people call “%s”', (text, label) => {
    expect(found(text)[0]).toBe(label);
  });

  it('wants every word, and says nothing where none fits', () => {
    expect(found('gas statement')).toEqual([]);
    expect(found('kiln 64')).toEqual(['6400 Kiln gas']);
  });
});
