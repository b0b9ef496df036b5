import { TestBed } from '@angular/core/testing';
import type { OpeningSource, PeriodView, VersionView } from '@margin-lens/contract';
import { Controls } from '../testing/controls';
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
  return { controls: new Controls(fixture), said };
}

describe('OpeningField', () => {
  it('offers actual balances and those of versions; a month only where one is chosen', async () => {
    const { controls, said } = await open(null);
    expect(await controls.offered('opening')).toEqual([
      'the actual balances before its first month',
      'the actual balances of a month',
      'the balances of Forecast 2',
    ]);
    await expect(controls.select('opening-month')).rejects.toThrow();
    await controls.choose('opening', /Forecast 2/);
    expect(said).toEqual([{ version: 'FC', period: 'FY2026-P12' }]); // the month before the plan begins
  });

  it('offers regular months before the first one, and goes back to none', async () => {
    const { controls, said } = await open({ version: 'FC', period: 'FY2026-P11' });
    expect(await controls.offered('opening-month')).toEqual(['Month FY2026-P11', 'Month FY2026-P12']);
    expect(await (await controls.select('opening-month')).getValueText()).toBe('Month FY2026-P11');
    await controls.choose('opening-month', 'Month FY2026-P12');
    await controls.choose('opening', /before its first month/);
    expect(said).toEqual([{ version: 'FC', period: 'FY2026-P12' }, null]);
  });
});
