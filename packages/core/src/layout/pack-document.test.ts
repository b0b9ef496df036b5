import * as v from 'valibot';
import { PackDocumentSchema } from './pack-document';

const pack = (...ids: string[]) => ({
  ...{ schema: 1, kind: 'pack', id: 'monthly', name: 'Monthly' },
  pages: ids.map((id) => ({ kind: 'figures', id, of: 'income_statement' })),
});

describe('a pack', () => {
  it('has each page once by its id, so that it can be chosen, moved and linked to', () => {
    expect(v.safeParse(PackDocumentSchema, pack('income', 'position')).success).toBe(true);
    const { issues } = v.safeParse(PackDocumentSchema, pack('income', 'income'));
    expect(issues?.map(({ message }) => message)).toEqual(['each page has an id of its own']);
  });
});
