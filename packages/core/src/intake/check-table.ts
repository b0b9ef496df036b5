import { codeRanges, isInRange } from '../account/code-ranges';
import { issue, type Issue, type Place } from '../issue/issue';
import { checkCell } from './check-cell';
import { readHeader, type Header } from './read-header';
import type { ResourceSpec } from './resource-spec';

/** A row of a package table: texts in the order of the resource's columns. */
export interface TableRow {
  cells: string[];
  line: number;
}

/** Checks the rows of one package table as they come; row keys are remembered so that none stands twice. */
export class TableChecker {
  private header: Header | undefined;
  private readonly firstLineByKey = new Map<string, number>();
  private readonly keyPositions: number[];

  constructor(
    private readonly resource: ResourceSpec,
    private readonly report: (found: Issue) => void,
    /** Known values of other resources, for columns that refer to them. */
    private readonly known: ReadonlyMap<string, ReadonlySet<string>>,
  ) {
    this.keyPositions = resource.key.map((name) => resource.columns.findIndex((column) => column.name === name));
  }

  /** Takes the header; false when nothing behind it can be read. */
  open(names: readonly string[]): boolean {
    const { file, columns } = this.resource;
    const required = columns.filter((column) => column.required).map((column) => column.name);
    this.header = readHeader(
      file,
      names,
      columns.map((column) => column.name),
      required,
    );
    this.header.issues.forEach(this.report);
    return !this.header.issues.some((found) => found.severity === 'error');
  }

  /** The row in column order, or undefined when something in it is wrong. */
  check(fields: readonly string[], line: number): TableRow | undefined {
    const { file, columns } = this.resource;
    const { at, width } = this.header!;
    const found: Issue[] = [];
    if (fields.length !== width) {
      this.report(issue('CORE_TABLE_ROW_WIDTH', { found: fields.length, expected: width }, { file, line }));
      return undefined;
    }
    const cells = columns.map((column) => {
      const position = at.get(column.name);
      const text = position === undefined ? '' : fields[position]!.trim();
      const place = { file, line, column: column.name };
      const wrong = checkCell(column, text, place);
      if (wrong) found.push(wrong);
      else if (text !== '' && column.refers && !this.known.get(column.refers)?.has(text)) {
        found.push(issue('CORE_REFERENCE_UNKNOWN', { what: column.name, text, file: `${column.refers}.csv` }, place));
      } else if (text !== '' && column.lists) found.push(...this.problemsOfList(column.lists, text, place));
      return text;
    });
    found.push(...this.findTwice(cells, line));
    found.forEach(this.report);
    return found.length === 0 ? { cells, line } : undefined;
  }

  /** Each part of a list of codes names at least one. */
  private problemsOfList(resource: string, text: string, place: Place): Issue[] {
    const ranges = codeRanges(text);
    if (!ranges) return [issue('CORE_CODES_UNREADABLE', { text }, place)];
    const known = [...(this.known.get(resource) ?? [])];
    return ranges
      .filter((range) => !known.some((code) => isInRange(range, code)))
      .map(({ from, to }) => {
        const params = { text: from === to ? from : `${from}..${to}`, file: `${resource}.csv` };
        return issue('CORE_CODES_UNKNOWN', params, place);
      });
  }

  private findTwice(cells: readonly string[], line: number): Issue[] {
    const key = this.keyPositions.map((position) => cells[position]).join(' · ');
    const first = this.firstLineByKey.get(key);
    if (first === undefined) {
      this.firstLineByKey.set(key, line);
      return [];
    }
    const shown = this.keyPositions
      .map((position) => cells[position])
      .filter(Boolean)
      .join(' · ');
    return [issue('CORE_ROW_TWICE', { key: shown, first }, { file: this.resource.file, line })];
  }
}
