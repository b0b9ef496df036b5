import { TestBed } from '@angular/core/testing';
import type { OpeningSource, PeriodView, VersionView } from '@margin-lens/contract';
import { OpeningField } from './opening-field';

const period = (key: string, kind = 'regular') => ({ key, name: `Month ${key}`, kind }) as PeriodView;
const PERIODS = [period('FY2026-P11'), period('FY2026-P12'), period('FY2026-P13', 'adjustment'), period('FY2027-P01')];

async function open(opening: OpeningSource | null) {
  const fixture = TestBed.createComponent(OpeningField);
  fixture.componentRef.setInput('versions', [{ code: 'FC', name: 'Forecast 2' } as VersionView]);
  fixture.componentRef.setInput('periods', PERIODS);
  fixture.componentRef.setInput('first', 'FY2027-P01');
  fixture.componentRef.setInput('opening', opening);
  const said: (OpeningSource | null)[] = [];
  fixture.componentInstance.changed.subscribe((choice) => said.push(choice));
  await fixture.whenStable();
  const field = (id: string) =>
    (fixture.nativeElement as HTMLElement).querySelector<HTMLSelectElement>(`[data-testid="${id}"]`);
  const choose = (id: string, value: string) => {
    field(id)!.value = value;
    field(id)!.dispatchEvent(new Event('change'));
  };
  return { field, choose, said };
}

describe('OpeningField', () => {
  it('offers actual balances and those of versions; a month only where one is chosen', async () => {
    const { field, choose, said } = await open(null);
    expect([...field('opening')!.options].map(({ text }) => text)).toEqual([
      'the actual balances before its first month',
      'the actual balances of a month',
      'the balances of Forecast 2',
    ]);
    expect(field('opening-month')).toBeNull();
    choose('opening', 'FC');
    expect(said).toEqual([{ version: 'FC', period: 'FY2026-P12' }]); // the month before the plan begins
  });

  it('offers regular months before the first one, and goes back to none', async () => {
    const { field, choose, said } = await open({ version: 'FC', period: 'FY2026-P11' });
    expect([...field('opening-month')!.options].map(({ value }) => value)).toEqual(['FY2026-P11', 'FY2026-P12']);
    expect(field('opening-month')!.value).toBe('FY2026-P11');
    choose('opening-month', 'FY2026-P12');
    choose('opening', '');
    expect(said).toEqual([{ version: 'FC', period: 'FY2026-P12' }, null]);
  });
});
