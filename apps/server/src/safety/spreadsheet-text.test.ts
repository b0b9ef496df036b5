import { asCellText, csvForSpreadsheets } from './spreadsheet-text';

describe('asCellText', () => {
  it.each(['=1+1', '+49 30', '-2+3+cmd|x', '@SUM(A1)', '\t=1', ' =1', '-', '-1e5', '\r=1'])(
    'neutralises %j',
    (text) => {
      expect(asCellText(text)).toBe(`'${text}`);
    },
  );

  it.each(['-12.50', '0', '-7', 'Rent', '', 'a=b', '1-2'])('leaves %j', (text) => {
    expect(asCellText(text)).toBe(text);
  });
});

describe('csvForSpreadsheets', () => {
  it('writes numbers as numbers', () => {
    expect(csvForSpreadsheets([['=x', -2, '-2', '-2+3']])).toBe("'=x,-2,-2,'-2+3\r\n");
  });
});
