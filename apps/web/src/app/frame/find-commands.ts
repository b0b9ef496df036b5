/** Something that can be gone to or done, found by its kind, its name, and what people call it. */
export interface Command {
  kind: string;
  label: string;
  words: string;
  run(): void;
}

/** What is wanted sooner where two fit alike: what one opens before what one only chooses. */
const PREFERENCE: Record<string, number> = { Statement: 3, Version: 2, Place: 1, Row: -1, Columns: -2 };

/** How well a word fits a command: at the start of its name, of a word of it, inside, or in what people call it. */
function fitOf(word: string, { kind, label, words }: Command): number {
  const name = label.toLowerCase();
  if (name.startsWith(word)) return 8;
  if (name.split(/[\s(·,]+/).some((part) => part.startsWith(word))) return 6;
  if (name.includes(word)) return 3;
  if (kind.toLowerCase().startsWith(word)) return 3;
  if (
    words
      .toLowerCase()
      .split(/\s+/)
      .some((part) => part.startsWith(word))
  )
    return 2;
  return words.toLowerCase().includes(word) ? 1 : 0;
}

/**
 * The commands that every typed word fits, the best first; those that fit alike keep their order.
 *
 * Shape: at most `most`; nothing typed finds the first of all.
 */
export function findCommands(commands: readonly Command[], text: string, most: number): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return commands.slice(0, most);
  const fits = commands.flatMap((command) => {
    const each = words.map((word) => fitOf(word, command));
    return each.every((fit) => fit > 0)
      ? [{ command, fit: each.reduce((sum, fit) => sum + fit, PREFERENCE[command.kind] ?? 0) }]
      : [];
  });
  return fits
    .sort((a, b) => b.fit - a.fit)
    .slice(0, most)
    .map(({ command }) => command);
}
