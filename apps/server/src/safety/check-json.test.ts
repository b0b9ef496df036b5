import { problemOfJson } from './check-json';

describe('problemOfJson', () => {
  it('lets through what people send', () => {
    expect(problemOfJson({ rows: [{ label: 'Net sales', children: [{ label: '' }] }], base: 4, note: null })).toBe(
      undefined,
    );
  });

  it('refuses null characters in texts and names, and nesting without end', () => {
    expect(problemOfJson({ a: ['x\0y'] })).toContain('null character');
    expect(problemOfJson({ 'a\0': 1 })).toContain('null character');
    let deep: unknown = 1;
    for (let at = 0; at < 100_000; at++) deep = [deep];
    expect(problemOfJson(deep)).toContain('64 deep');
  });
});
