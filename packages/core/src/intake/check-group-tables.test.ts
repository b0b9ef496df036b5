import { checkGroupTables, type GroupTables } from './check-group-tables';

const share = (from: string, percent: number) => ({ investor: 'TOP', investee: 'SUB', from, percent });
const pair = { investor: 'TOP', investee: 'SUB' };
const codes = (tables: GroupTables, shares = [share('2024-01-01', 80), share('2026-07-01', 30)]) =>
  checkGroupTables(tables, shares).map(({ code, place }) => `${code} ${place?.file}`);

describe('what group figures stand on', () => {
  it('is fine where ownership, disposals and deals agree', () => {
    const tables = {
      acquisitions: [{ ...pair, date: '2024-01-01' }],
      disposals: [{ ...pair, date: '2026-07-01', percent_sold: '50' }],
      impairments: [{ ...pair, period: 'FY2026-P12', amount: '10.00' }],
      stock_held: [{ holder: 'TOP', seller: 'SUB' }],
      asset_transfers: [{ seller: 'TOP', buyer: 'SUB' }],
      account_map: [
        { entity: 'SUB', from: '4000..4199', to: '4000', valid_from: '' },
        { entity: 'SUB', from: '4200', to: '4000', valid_from: '' },
        { entity: 'SUB', from: '4100', to: '4100', valid_from: '2026-04-01' },
        { entity: 'TOP', from: '4100', to: '4000', valid_from: '' },
      ],
      source_links: [{ entity: 'TOP', pattern: 'https://archive.example/find?number={document}' }],
      attachments: [{ file: 'attachments/invoice 7.pdf' }],
    };
    expect(codes(tables)).toEqual([]);
  });

  it('names holdings that no share speaks of, once a table', () => {
    const other = { investor: 'SUB', investee: 'TOP' };
    expect(codes({ acquisitions: [other, other], impairments: [other] })).toEqual([
      'CORE_HOLDING_UNKNOWN acquisitions.csv',
      'CORE_HOLDING_UNKNOWN impairments.csv',
    ]);
  });

  it('refuses selling more than was held, and ownership that says something else is left', () => {
    const sold = (date: string, percent: string) => ({ disposals: [{ ...pair, date, percent_sold: percent }] });
    expect(codes(sold('2026-07-01', '90'))).toEqual(['CORE_DISPOSAL_OVER disposals.csv']);
    expect(codes(sold('2023-12-31', '10'))).toEqual(['CORE_DISPOSAL_OVER disposals.csv']);
    expect(codes(sold('2026-07-01', '80'))).toEqual(['CORE_DISPOSAL_UNLIKE_OWNERSHIP disposals.csv']);
    expect(codes(sold('2026-08-01', '10'))).toEqual(['CORE_DISPOSAL_UNLIKE_OWNERSHIP disposals.csv']);
  });

  it('refuses deals of an entity with itself', () => {
    expect(codes({ stock_held: [{ holder: 'TOP', seller: 'TOP' }] })).toEqual(['CORE_DEAL_WITH_ITSELF stock_held.csv']);
  });

  it('refuses accounts that would go to two accounts of the group', () => {
    const map = (...from: string[]) => ({ account_map: from.map((each) => ({ entity: 'SUB', from: each, to: '1' })) });
    expect(codes(map('4000..4199', '4100..4299'))).toEqual(['CORE_MAP_OVERLAP account_map.csv']);
    expect(codes(map('4100', '4000, 4100'))).toEqual(['CORE_MAP_OVERLAP account_map.csv']);
    expect(codes(map('4000..4199', '4100'))).toEqual([]); // an exception to the range
    expect(codes(map('4000 to 4199'))).toEqual(['CORE_CODES_UNREADABLE account_map.csv']);
  });

  it.each(['javascript:alert({document})', 'https://archive.example/', 'archive/{document}', 'https://{document}/'])(
    'takes no link such as %s',
    (pattern) => {
      expect(codes({ source_links: [{ entity: 'TOP', pattern }] })).toEqual(['CORE_LINK_PATTERN source_links.csv']);
    },
  );

  it.each(['invoice.pdf', 'attachments/../journals.csv', '/etc/passwd', 'attachments/..', 'attachments/a\\b'])(
    'lets no attachment stand at %s',
    (file) => {
      expect(codes({ attachments: [{ file }] })).toEqual(['CORE_ATTACHMENT_PATH attachments.csv']);
    },
  );
});
