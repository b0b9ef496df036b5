import { keepSaid, type NextLook } from './keep-said';
import type { Mapping } from './mapping';

const PROPOSED: Mapping = {
  schema: 1,
  kind: 'mapping',
  id: 'balance',
  name: 'balance',
  purpose: 'trial_balance',
  header: ['Konto', 'Soll', 'Haben'],
  headerLine: 1,
  encoding: 'utf-8',
  delimiter: ';',
  decimal: '.',
  dateOrder: 'dmy',
  shareForm: 'percent',
  measure: 'closing',
  start: 'opened',
  sign: 'natural',
  columns: { account: 'Konto', debit: 'Soll', credit: 'Haben' },
  constants: { entity: 'main' },
  values: {},
};

const next = (change: Partial<NextLook>): NextLook => ({
  mapping: { ...PROPOSED, decimal: ',' },
  header: PROPOSED.header,
  targets: new Set(['account', 'debit', 'credit', 'amount', 'period', 'entity']),
  codes: { period: [{ code: 'FY2027-P05' }], account: [] },
  ...change,
});

describe('keepSaid', () => {
  it('takes what the new look proposes where nothing was put right', () => {
    expect(keepSaid(PROPOSED, PROPOSED, next({}))).toEqual(next({}).mapping);
  });

  it('keeps answers, columns, values for the whole file and codes that were put right', () => {
    const said: Mapping = {
      ...PROPOSED,
      measure: 'movement',
      columns: { account: 'Konto', amount: 'Haben' },
      constants: { entity: '', period: 'FY2027-P05' },
      values: { account: { '0400': '1400' } },
    };
    expect(keepSaid(PROPOSED, said, next({}))).toEqual({ ...said, decimal: ',' });
  });

  it('lets go of a period that the new calendar does not have, and of columns and targets that are gone', () => {
    const said: Mapping = {
      ...PROPOSED,
      columns: { ...PROPOSED.columns, text: 'Soll' },
      constants: { ...PROPOSED.constants, period: 'FY2027-P05' },
    };
    const look = next({ codes: { period: [{ code: '2026-08' }] }, header: ['Konto', 'Haben'] });
    expect(keepSaid(PROPOSED, said, look)).toEqual(look.mapping);
    expect(keepSaid(PROPOSED, said, next({ codes: {} })).columns).toEqual({
      account: 'Konto',
      debit: 'Soll',
      credit: 'Haben',
    });
  });
});
