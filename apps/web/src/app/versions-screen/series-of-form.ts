import type { Series } from '@margin-lens/core';
import { typedNumber, typedNumbers } from '../shared/typed-amount';
import type { ActionForm } from './action-form';

/**
 * The series that a form describes, or what is still wrong with it.
 * @param unit what one stands for of what is typed, in minor units
 */
export function seriesOfForm(form: ActionForm, unit: number): Series | string {
  const problems: string[] = [];
  const number = (text: string, what: string, isRight: (value: number) => boolean = () => true): number => {
    const value = typedNumber(text);
    if (!Number.isFinite(value)) problems.push(`${what} is not a number.`);
    else if (!isRight(value)) problems.push(`${what} cannot be ${text.trim()}.`);
    return value;
  };
  const amount = (text: string, what: string) => Math.round(number(text, what) * unit);
  const months = (text: string, what: string, least: number) =>
    number(text, what, (value) => Number.isInteger(value) && value >= least);
  const list = (text: string, what: string): number[] => {
    const values = typedNumbers(text);
    if (!values.every((value) => value >= 0)) problems.push(`${what} are numbers, one a month.`);
    return values;
  };
  const series = ((): Series => {
    const { series: by, loanPart: part } = form;
    switch (by) {
      case 'step':
        return { by, start: amount(form.start, 'The first month'), step: amount(form.step, 'The step') };
      case 'annuity': {
        const [balance, yearlyPercent] = [amount(form.start, 'The balance'), number(form.yearly, 'The interest')];
        return { by, part, balance, yearlyPercent, payments: months(form.payments, 'The number of payments', 1) };
      }
      case 'declining_balance': {
        const [balance, yearlyPercent] = [amount(form.start, 'The balance'), number(form.yearly, 'The interest')];
        return { by, part, balance, yearlyPercent, repayment: amount(form.step, 'What is repaid') };
      }
      case 'straight_line': {
        const [cost, residue] = [amount(form.start, 'The cost'), amount(form.step || '0', 'The residual value')];
        const lifeMonths = months(form.life, 'The life', 1);
        return { by, cost, residue, lifeMonths, after: months(form.begins || '0', 'Its beginning', 0) };
      }
      case 'payroll': {
        const heads = number(form.start, 'The number of people', (value) => value >= 0);
        const rate = amount(form.step, 'The cost of each');
        const [joiners, leavers] = [list(form.joiners, 'Joiners'), list(form.leavers, 'Leavers')];
        const raisePercent = number(form.raise || '0', 'The raise');
        const raiseAfter = months(form.raiseAfter || '0', 'The month of the raise', 0);
        return { by, heads, rate, joiners, leavers, raisePercent, raiseAfter };
      }
    }
  })();
  return problems[0] ?? series;
}
