import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const APP = path.join(__dirname, '../src/app');

// Sheets draw their cells themselves: there a cell holds one bare input, only while it is edited. Their heads and the ruler are drawn, too.
const DRAWN = new Set([
  'statement-screen/statement-table.html',
  'shape/shape-table.html',
  'versions-screen/planning-table.html',
  'shared/sheet/sheet.html',
  'frame/period-ruler.html',
  'shared/grid/column-edge.ts',
]);

/** What makes a control of the page one of the library. */
const OF_LIBRARY: Record<string, RegExp> = {
  button: /\b(matButton|matIconButton|mat-menu-item|mat-list-item|mat-tab-link|matChipRemove)\b/,
  input: /\b(matInput|matChipInputFor|matAutocomplete)\b|type="file"/,
  textarea: /\bmatInput\b/,
};
const CONTROL = /<(select|option|input|textarea|button|datalist)\b(?:[^>"]|"[^"]*")*>/g;

const templates = readdirSync(APP, { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.(html|ts)$/.test(file) && !/\.(spec|test)\.ts$|testing/.test(file))
  .map((file) => {
    const text = readFileSync(path.join(APP, file), 'utf8');
    return { file, template: file.endsWith('.html') ? text : (/template: `([^`]*)`/.exec(text)?.[1] ?? '') };
  });

/** The plain controls of a template; a field for a file is one that the library does not have. */
const plainControls = (template: string): string[] =>
  [...template.matchAll(CONTROL)].flatMap(([tag, name]) => (OF_LIBRARY[name!]?.test(tag) ? [] : [tag]));

describe('templates', () => {
  it('hold controls of the library alone, but where cells are drawn', () => {
    const plain = templates
      .filter(({ file }) => !DRAWN.has(file))
      .flatMap(({ file, template }) => plainControls(template).map((tag) => `${file}: ${tag}`));
    expect(plain).toEqual([]);
    expect(templates.length).toBeGreaterThan(100);
  });

  it('would be told of a plain one', () => {
    expect(
      plainControls('<button type="button" class="button">Go</button><select><option>a</option></select>'),
    ).toHaveLength(3);
    expect(plainControls('<button matButton>Go</button><input matInput /><input type="file" hidden />')).toEqual([]);
  });

  it('name every icon that stands alone', () => {
    const nameless = templates.flatMap(({ file, template }) =>
      [...template.matchAll(/<button\b(?:[^>"]|"[^"]*")*\bmatIconButton\b(?:[^>"]|"[^"]*")*>/g)]
        .map(([tag]) => tag)
        .filter((tag) => !/aria-label/.test(tag))
        .map((tag) => `${file}: ${tag}`),
    );
    expect(nameless).toEqual([]);
  });
});
