import * as v from 'valibot';

/** Longest name of a document, and longest label, heading or note, in characters. */
const NAME_LENGTH = 200;
const TEXT_LENGTH = 1000;

export const nameText = v.pipe(v.string(), v.minLength(1), v.maxLength(NAME_LENGTH));
export const shortText = v.pipe(v.string(), v.maxLength(TEXT_LENGTH));
