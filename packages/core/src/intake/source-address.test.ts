import { isLinkPattern, sourceAddress, type SourceOf } from './source-address';

const INVOICE: SourceOf = {
  document: 'INV/7 & 8',
  document_type: 'invoice',
  journal: 'S-12',
  entity: 'LMG',
  fiscal_year: '2027',
};
const link = (entity: string, documentType: string, pattern: string) => ({ entity, documentType, pattern });

describe('sourceAddress', () => {
  it('goes by the type of the document before it goes by the entity', () => {
    const links = [
      link('LMG', '', 'https://any.example/{document}'),
      link('LMG', 'invoice', 'https://in.example/{fiscal_year}/{journal}?d={document}'),
      link('LMT', 'invoice', 'https://other.example/{document}'),
    ];
    expect(sourceAddress(links, INVOICE)).toBe('https://in.example/2027/S-12?d=INV%2F7%20%26%208');
    expect(sourceAddress(links, { ...INVOICE, document_type: 'receipt' })).toBe(
      'https://any.example/INV%2F7%20%26%208',
    );
  });

  it('has none without a document or a pattern', () => {
    const links = [link('LMG', 'invoice', 'https://in.example/{document}')];
    expect(sourceAddress(links, { ...INVOICE, document: '' })).toBeUndefined();
    expect(sourceAddress(links, { ...INVOICE, document_type: 'receipt' })).toBeUndefined();
    expect(sourceAddress(links, { ...INVOICE, entity: 'LMS' })).toBeUndefined();
  });
});

describe('isLinkPattern', () => {
  it.each([
    ['https://archive.example/find?document={document}', true],
    ['http://archive.example/{entity}/{document_type}/{document}', true],
    ['https://archive.example/find', false],
    ['https://archive.example/{document}/{customer}', false],
    ['https://{entity}.example/{document}', false],
    ['javascript:alert({document})', false],
    ['file:///archive/{document}', false],
  ])('%s: %s', (pattern, is) => {
    expect(isLinkPattern(pattern)).toBe(is);
  });
});
