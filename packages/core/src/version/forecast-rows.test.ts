import { LINES, line, MONTHS, NONE, rowOf } from '../../test/small-plan';
import { finestRows, forecastRows } from './forecast-rows';
import { linesOf, openingsOf, type FigureLine, type SheetRow } from './planning-sheet';

/** Two years of months that repeat: 100 and 300 euros by turns. */
const repeated = (account: string): FigureLine => ({
  ...line(account, NONE),
  figures: Array.from({ length: 24 }, (_, month) => (month % 2 === 0 ? 10_000 : 30_000)),
});
const posted = { lines: linesOf([repeated('6000')]), openings: openingsOf([]), months: 24 };

describe('forecastRows', () => {
  it('carries every row on by the method that was nearest, and says what cannot be', () => {
    const [people, goods] = forecastRows([rowOf('people'), rowOf('goods')], posted, 3);
    expect(people).toMatchObject({ last: repeated('6000').figures.slice(-12), problem: undefined });
    const best = people!.tried.find(({ method }) => method === people!.best);
    // what repeats exactly is forecast exactly; the first month after 24 is like the first
    expect(best).toMatchObject({ backTest: { mae: 0 }, forecast: [10_000, 30_000, 10_000] });
    expect(goods).toMatchObject({ best: undefined, problem: 'nothing was posted in the last twelve months' });
  });

  it('says how many months the plainest method needs where there are fewer', () => {
    const lines = linesOf([{ ...repeated('6000'), figures: [10_000, 30_000] }]);
    const [people] = forecastRows([rowOf('people')], { ...posted, lines, months: 2 }, 3);
    expect(people!.problem).toBe('3 months of history are needed, and there are 2.');
  });

  it('leaves alone what has ended, though it was posted before', () => {
    const ended = {
      ...repeated('6000'),
      figures: repeated('6000').figures.map((figure, at) => (at < 12 ? figure : 0)),
    };
    const [people] = forecastRows([rowOf('people')], { ...posted, lines: linesOf([ended]) }, 3);
    expect(people!.problem).toBe('nothing was posted in the last twelve months');
  });

  it('reads a balance by its closings', () => {
    const cash = forecastRows(
      [rowOf('cash')],
      {
        lines: LINES,
        openings: openingsOf([{ account: '1000', combination: NONE, figure: 50_000 }]),
        months: MONTHS.length,
      },
      1,
    )[0]!;
    const moved = [...LINES.values()].filter(({ account }) => account === '1000').flatMap(({ figures }) => figures);
    expect(cash.last.at(-1)).toBe(50_000 + moved.reduce((sum, figure) => sum + figure, 0));
  });
});

it('of a total with all that it is made of the parts are forecast, with some of it the total', () => {
  const part = (id: string, ...accounts: string[]): SheetRow => ({
    ...rowOf('people'),
    id,
    leaves: accounts.map((account) => ({ account, sign: 1, combination: NONE })),
  });
  const [all, first, second, none] = [part('all', '1', '2', '3'), part('a', '1', '2'), part('b', '3'), part('none')];
  expect(finestRows([all, first, second, none]).map(({ id }) => id)).toEqual(['a', 'b']);
  expect(finestRows([all, first]).map(({ id }) => id)).toEqual(['all', 'a']);
});
