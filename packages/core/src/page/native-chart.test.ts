import { nativeChart } from './native-chart';

const bar = (more: object = {}) => ({ type: 'bar', data: [{ value: 200 }, null, -100], ...more });

describe('a chart as numbers', () => {
  it('has categories and series as they are read, what is not known left out', () => {
    const option = {
      xAxis: { type: 'category', data: ['Jan', 'Feb', 'Mar'] },
      yAxis: { type: 'value' },
      series: [bar({ name: 'Sales' })],
    };
    expect(nativeChart(option, 100)).toEqual({
      ...{ kind: 'bars', isLying: false, isStacked: false, categories: ['Jan', 'Feb', 'Mar'] },
      series: [{ name: 'Sales', values: [2, null, -1] }],
    });
  });

  it('lies where its categories stand at the side, and stands on each other where it is stacked', () => {
    const option = {
      xAxis: [{ type: 'value' }],
      yAxis: [{ type: 'category', data: ['A', 'B', 'C'] }],
      series: [bar({ stack: 's' }), bar({ stack: 's' })],
    };
    expect(nativeChart(option, 1)).toMatchObject({ isLying: true, isStacked: true });
  });

  it('is none where several charts stand beside each other, or where it is drawn otherwise', () => {
    const axis = { type: 'category', data: ['A'] };
    expect(nativeChart({ xAxis: [axis, axis], yAxis: [{}, {}], series: [bar()] }, 1)).toBeUndefined();
    expect(nativeChart({ series: [{ type: 'treemap', data: [] }] }, 1)).toBeUndefined();
    expect(nativeChart({ xAxis: axis, yAxis: {}, series: [bar(), { ...bar(), type: 'line' }] }, 1)).toBeUndefined();
  });
});
