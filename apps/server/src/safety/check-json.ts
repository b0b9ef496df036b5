import { requestWrong } from '../base/words';
/** How deep objects and lists of a request may stand in each other. */
const DEEPEST = 64; // 20 to 200

/** Longest text of a request, characters. */
const LONGEST = 20_000; // 5,000 to 100,000

/**
 * What nothing that a person sends may hold, whatever its schema says: nesting or texts without end, and characters that
 * text files and databases end a text at. Undefined when it is fine.
 *
 * Time: one step a value, none of them a call within a call.
 */
export function problemOfJson(root: unknown): string | undefined {
  const open: [value: unknown, depth: number][] = [[root, 0]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [value, depth] = next;
    if (typeof value === 'string') {
      if (value.includes('\0')) return requestWrong.nullInText;
      if (value.length > LONGEST) return requestWrong.textTooLong(LONGEST);
    }
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= DEEPEST) return requestWrong.tooDeep(DEEPEST);
    for (const [key, each] of Object.entries(value)) {
      if (key.includes('\0')) return requestWrong.nullInName;
      open.push([each, depth + 1]);
    }
  }
  return undefined;
}
