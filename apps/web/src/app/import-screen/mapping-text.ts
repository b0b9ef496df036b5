import type { InspectionView } from '@margin-lens/contract';
import {
  type DateOrder,
  type DecimalSign,
  type Encoding,
  type Mapping,
  type Purpose,
  inWords,
} from '@margin-lens/core';
import { sentenceCase } from '@margin-lens/core/shown';

export const PURPOSE_WORDS: Record<Purpose, string> = {
  journals: 'Journals',
  trial_balance: 'A trial balance',
  figures: 'Plan or forecast figures',
  accounts: 'Accounts',
  dimensions: 'Dimension values',
  rates: 'Exchange rates',
  ownership: 'Ownership',
  versions: 'Versions',
};

export const DECIMAL_WORDS: Record<DecimalSign, string> = { '.': '1,234.50', ',': '1.234,50' };

export const DATE_WORDS: Record<DateOrder, string> = {
  ymd: 'Year first',
  dmy: 'Day first',
  mdy: 'Month first',
};

export const DELIMITER_WORDS: Record<Mapping['delimiter'], string> = {
  ',': 'Comma',
  ';': 'Semicolon',
  '\t': 'Tab',
  '|': 'Vertical bar',
};

export const ENCODING_WORDS: Record<Encoding, string> = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16, little end first',
  'utf-16be': 'UTF-16, big end first',
  'windows-1252': 'Windows-1252',
};

export interface QuestionShown {
  about: string;
  text: string;
  answers: { value: string; words: string }[];
}

/** The questions that a file leaves open, each with the answers to choose from. */
export function questionsOf({ questions, encodingText }: InspectionView): QuestionShown[] {
  const asked = questions.map(({ about, texts }): QuestionShown => {
    const shown = texts.map((text) => `“${text.trim()}”`).join(', ');
    switch (about) {
      case 'decimal':
        return {
          about,
          text: `${shown} can be read in two ways. Which sign stands before the decimals?`,
          answers: [
            { value: '.', words: 'The point: one and a bit' },
            { value: ',', words: 'The comma: a thousand and more' },
          ],
        };
      case 'dates':
        return {
          about,
          text: `${shown}: does the day stand first, or the month?`,
          answers: [
            { value: 'dmy', words: 'The day' },
            { value: 'mdy', words: 'The month' },
          ],
        };
      case 'shares':
        return {
          about,
          text: `${shown}: are shares written in percent?`,
          answers: [
            { value: 'percent', words: 'In percent: 80 is 80 %' },
            { value: 'fraction', words: 'As parts of one: 0.8 is 80 %' },
          ],
        };
    }
  });
  if (!encodingText) return asked;
  const { line, text } = encodingText;
  return [
    ...asked,
    {
      about: 'encoding',
      text: `The file is not UTF-8. Read as Windows-1252, line ${line} says “${text}”. Is that right?`,
      answers: [{ value: 'windows-1252', words: 'Yes, that is the text' }],
    },
  ];
}

/** What a target is called where a code of the file is to be replaced. */
export const targetWords = (target: string): string => {
  const name = inWords(target.replace(/^dim:/, ''));
  return sentenceCase(name);
};
