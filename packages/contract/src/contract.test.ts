import * as v from 'valibot';
import {
  percentChangeOf,
  quotientOf,
  undefinedFigure,
  type Figure,
  type UndefinedReason,
  type Unit,
} from '@margin-lens/core';
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
    const figures = [
      eur(1),
      percentChangeOf(eur(1), eur(0)),
      percentChangeOf(eur(1), eur(-1)),
      quotientOf(eur(1), eur(3)),
      { amount: 10_000, unit: { kind: 'count', name: 'people', digits: 0 } } satisfies Figure,
      ...reasons.map((reason) => undefinedFigure(reason, EUR)),
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
