import { COMBINATION_SEPARATOR, searchPhrases } from '@margin-lens/core';

/**
 * Words that stand for what a line is, beside those of its texts. They begin with a letter that Latin texts hardly
 * begin with, so that a search for text does not meet them.
 */
export const entityWord = (id: number): string => `ꜩe${id}`;
export const accountWord = (id: number): string => `ꜩk${id}`;
export const periodWord = (id: number): string => `ꜩp${id}`;
export const amountWord = (minor: number): string => `ꜩa${Math.abs(minor)}`;

export interface IndexedLine {
  id: number;
  entity: number;
  account: number;
  period: number;
  debit: number;
  credit: number;
  description: string;
  document: string;
  number: string;
  parts: string;
}

/** What the index keeps of a line. */
export function wordsOfLine({
  entity,
  account,
  period,
  debit,
  credit,
  description,
  document,
  number,
  parts,
}: IndexedLine): string {
  const amounts = [debit, credit].filter((amount) => amount !== 0).map(amountWord);
  const texts = `${description} ${document} ${number} ${parts.replaceAll(COMBINATION_SEPARATOR, ' ')}`;
  return [entityWord(entity), accountWord(account), periodWord(period), ...amounts, texts].join(' ');
}

export interface Sought {
  entity: number;
  account: number | undefined;
  /** Ids of the periods to look in; undefined for all. */
  periods: readonly number[] | undefined;
  text: string;
  /** The text read as an amount, if it is one. */
  minor: number | undefined;
}

/** Letters of a word up to which it begins too many others. */
const SHORT = 2;

/** Short numbers begin too many words: a text written as an amount is looked for in whole words. */
export const isWholeWords = ({ text, minor }: Sought): boolean => minor !== undefined && !/^\d+$/.test(text);

/** The query of the index for a search; undefined when nothing in the text can be looked for. */
export function indexQuery(sought: Sought): string | undefined {
  const { entity, account, periods, text, minor } = sought;
  const isWhole = isWholeWords(sought);
  const words = searchPhrases(text).flatMap((phrase) =>
    phrase.flatMap((word, at) => {
      const mayGoOn = !isWhole && at === phrase.length - 1;
      // a letter or two begin too many words to be of help beside the others of its phrase, which is looked at later
      if (mayGoOn && at > 0 && word.length <= SHORT) return [];
      return [`"${word}"${mayGoOn ? '*' : ''}`];
    }),
  );
  const alternatives = [
    ...(words.length > 0 ? [`(${words.join(' AND ')})`] : []),
    ...(minor === undefined ? [] : [amountWord(minor)]),
  ];
  if (alternatives.length === 0) return undefined;
  return [
    entityWord(entity),
    ...(account === undefined ? [] : [accountWord(account)]),
    ...(periods === undefined ? [] : [`(${periods.map(periodWord).join(' OR ')})`]),
    `(${alternatives.join(' OR ')})`,
  ].join(' AND ');
}
