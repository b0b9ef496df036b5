import { FormControl } from '@angular/forms';
import { readablePlain } from '@margin-lens/core/shown';
import { plainAmount, typedAmount } from './typed-amount';

describe('an amount that is typed', () => {
  it('is read with its thousands divided or not', () => {
    expect(['4,200,000.00', '4 200 000', '-17.5', ''].map(plainAmount)).toEqual(['4200000.00', '4200000', '-17.5', '']);
    expect(['4200000.00', '-1234', '12', ''].map(readablePlain)).toEqual(['4,200,000.00', '-1,234', '12', '']);
  });

  it('is an amount, or nothing', () => {
    const isWrong = (text: string) => typedAmount(new FormControl(text, { nonNullable: true })) !== null;
    expect(['1,000.50', '', '-3'].map(isWrong)).toEqual([false, false, false]);
    expect(['much', '1.23456', '1e5', '--2'].map(isWrong)).toEqual([true, true, true, true]);
  });
});
