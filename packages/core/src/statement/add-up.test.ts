import { defined } from '../figure/figure';
import { addUpTexts } from './add-up';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const row = (kind: 'group' | 'accounts', depth: number, ...thousandths: number[]) => ({
  kind,
  depth,
  opened: false,
  cells: thousandths.map((amount) => defined(amount * 100, EUR)),
});

describe('addUpTexts', () => {
  it('moves the rest into the largest detail of the total, and marks it', () => {
    // 1,400 + 1,400 + 1,700 = 4,500: in thousands 1 + 1 + 2 against 5 (half away from zero), so the largest becomes 3
    const texts = addUpTexts(
      [row('group', 0, 4500), row('accounts', 1, 1400), row('accounts', 1, 1400), row('accounts', 1, 1700)],
      1,
      1000,
      {},
    );
    expect([...texts]).toEqual([['3.0', '3ʳ']]);
  });

  it('leaves alone what adds up, and differences that rounding cannot make', () => {
    expect(
      addUpTexts([row('group', 0, 3000), row('accounts', 1, 1000), row('accounts', 1, 2000)], 1, 1000, {}).size,
    ).toBe(0);
    expect(
      addUpTexts([row('group', 0, -3000), row('accounts', 1, 1000), row('accounts', 1, 2000)], 1, 1000, {}).size,
    ).toBe(0);
  });
});
