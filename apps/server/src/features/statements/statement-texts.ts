import { ACTUAL, dayInWords, type ShownUnit } from '@margin-lens/core';
import type { OpenedStatement } from './open-statement';

const UNIT_NAMES: Record<ShownUnit, string> = { 1: '', 1000: ' thousand', 1_000_000: ' million' };

/** The line under a statement's title: whose books, in what, as at when. */
export function subtitleOf({ scope, source }: OpenedStatement, unit: ShownUnit): string {
  const { where = [], shownVersion = ACTUAL, versions = [] } = source.surroundings ?? {};
  const version = versions.find(({ code }) => code === shownVersion)?.name;
  const only = where.map(({ dimension, values }) =>
    values.length > 0 ? `${dimension} ${values.join(', ')}` : `no ${dimension}`,
  );
  return [
    scope.name,
    `${scope.currency.code}${UNIT_NAMES[unit]}`,
    version,
    only.length > 0 ? `only ${only.join(', ')}` : '',
    `as at ${dayInWords(source.at.end)}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** A file name from what is in the file. */
export const fileNameOf = ({ document, scope, source }: OpenedStatement, extension: string): string =>
  `${document.id}-${scope.code}-${source.at.key}.${extension}`.toLowerCase();
