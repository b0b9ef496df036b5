import type { asking } from './asking';

const LINE = { description: '', partner: '', document: '', currency: '', currencyAmount: '', debit: '', credit: '' };

/** Posts an amount that an account of an entity was paid as an adjustment. */
export const adjust = (
  ask: ReturnType<typeof asking>,
  date: string,
  account: string,
  amount: string,
  entity = 'ONE',
) => {
  const lines = [
    { ...LINE, account: '1000', debit: amount },
    { ...LINE, account, credit: amount },
  ];
  return ask('POST', '/adjustments', { entity, date, period: '', reason: 'Late', reverses: false, lines });
};
