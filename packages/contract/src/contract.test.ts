import * as v from 'valibot';
import type { Figure, UndefinedReason, Unit } from '@margin-lens/core';
import { AnswerSchema, ContextSchema, FigureSchema, TraceRequestSchema } from './index';

const EUR: Unit = { kind: 'currency', code: 'EUR', digits: 2 };
const eur = (amount: number): Figure => ({ amount, unit: EUR });

describe('FigureSchema', () => {
  it('takes every figure that the engine makes, as it is', () => {
    const reasons: UndefinedReason[] = [
      'no_base',
      'no_data',
      'to_come',
      'not_meaningful',
      'rate_missing',
      'planned_higher',
      'cycle',
      'not_permitted',
    ];
    const figures: Figure[] = [
      eur(1),
      { amount: null, unit: { kind: 'ratio' }, reason: 'no_base', word: 'new' },
      { amount: 2, unit: { kind: 'ratio' }, signsDiffer: true },
      { amount: 1 / 3, unit: { kind: 'ratio' }, negativeBase: true },
      { amount: -0.011, unit: { kind: 'basis_points' } },
      { amount: 10_000, unit: { kind: 'count', name: 'people', digits: 0 } },
      ...reasons.map((reason): Figure => ({ amount: null, unit: EUR, reason })),
    ];
    for (const figure of figures) expect(v.parse(FigureSchema, figure)).toEqual(figure);
  });
});

describe('requests', () => {
  it('need a scope and an as-at, and read numbers from the query', () => {
    expect(v.safeParse(ContextSchema, { scope: 'LMG' }).success).toBe(false);
    const asked = v.parse(TraceRequestSchema, { scope: 'LMG', as_at: '2026-08', address: 'cell~a~b', skip: '200' });
    expect(asked.skip).toBe(200);
    expect(v.safeParse(AnswerSchema, { again: 'yes' }).success).toBe(false);
  });
});
