import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const SRC = path.join(__dirname, '../src');

/** Files that are themselves what is said: the catalogues, the command line, what describes the interface, services that are stood in for; store holds SQL, and files of page markup. */
const SAYS =
  /^(base\/((\w+-)?words|error-codes)|lens|main|errors-document|plugins\/describe-interface|page\/(page-html|chart-part|office-parts|workbook-charts|marked-charts)|store\/.*|stand-ins\/.*|migrations\/.*)\.ts$/;
/** Words that are names: of this application, of fonts, of parts of an audit file, of what HTTP says. */
const NAMES = /^(Margin Lens.*|Trial balance|private, no-cache|Source S(ans 3|erif 4))$/;
/** What describes a route, and what only the log is told. */
const DESCRIBES = new Set(['summary', 'description', 'example', 'examples']);
const LOGS = /^(Error|RangeError|TypeError|console\.error)$/;

/** Texts of a source that people could read: two words beside each other, placeholders counted as one. */
function wordsIn(text: string): string[] {
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isPropertyAssignment(node) && DESCRIBES.has(node.name.getText())) return;
    if ((ts.isNewExpression(node) || ts.isCallExpression(node)) && LOGS.test(node.expression.getText())) return;
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node) || ts.isTemplateExpression(node)) {
      const said = node.getText().slice(1, -1);
      if (
        /[a-z]{2,},? [a-z]{2,}|[a-z]{2,} X|X,? [a-z]{2,} /i.test(said.replace(/\$\{[^}]*\}/g, 'X')) &&
        !NAMES.test(said)
      )
        found.push(said);
      return;
    }
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile('source.ts', text, ts.ScriptTarget.Latest, true));
  return found;
}

describe('what the server says', () => {
  it('stands in the catalogues alone', () => {
    const files = readdirSync(SRC, { recursive: true, encoding: 'utf8' }).filter(
      (file) => /(?<!\.test|\.fuzz\.test)\.ts$/.test(file) && !SAYS.test(file),
    );
    const elsewhere = files.flatMap((file) =>
      wordsIn(readFileSync(path.join(SRC, file), 'utf8')).map((words) => `${file}: ${words}`),
    );
    expect(elsewhere).toEqual([]);
    expect(files.length).toBeGreaterThan(100);
  });

  it('would be found elsewhere', () => {
    const source = `
      throw appError('SRV_FIGURE_PLACE', { problem: \`there is no account \${number}\` });
      const routes = { schema: { summary: 'What is wrong' }, url: '/a/b' };
      throw new Error('the thread ended');
      const note = 'planned at a higher level';`;
    expect(wordsIn(source)).toEqual(['there is no account ${number}', 'planned at a higher level']);
  });
});
