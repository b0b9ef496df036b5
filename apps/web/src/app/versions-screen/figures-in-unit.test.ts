import { inUnit } from './figures-in-unit';

describe('inUnit', () => {
  it('turns whole units into the unit that is shown, and leaves empty cells and words', () => {
    expect(inUnit('289500\t-10\n\tx', 1000)).toBe('289.5\t-0.01\n\tx');
    expect(inUnit('289500', 1)).toBe('289500');
  });
});
