/** Words of a text as a search compares them: letters and digits, in lower case, without accents. */
export const searchWords = (text: string): string[] =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/**
 * What is looked for: phrases that stand apart by spaces, each one word or several that follow one another.
 * @example searchPhrases('Müller RE-1042') // [['muller'], ['re', '1042']]
 */
export const searchPhrases = (text: string): string[][] =>
  text
    .split(/\s+/)
    .map(searchWords)
    .filter((words) => words.length > 0);

/**
 * True when a text holds every phrase: its words one after the other, of which the last may go on, unless only whole
 * words count.
 * @example matchesPhrases('Invoice RE-1042, Müller', searchPhrases('mull re-10')) // true
 */
export function matchesPhrases(text: string, phrases: readonly (readonly string[])[], isWhole = false): boolean {
  const words = searchWords(text);
  const isAt = (phrase: readonly string[], at: number) =>
    phrase.every((word, index) => {
      const mayGoOn = !isWhole && index === phrase.length - 1;
      return mayGoOn ? words[at + index]?.startsWith(word) : words[at + index] === word;
    });
  return phrases.every((phrase) => words.some((_, at) => isAt(phrase, at)));
}
