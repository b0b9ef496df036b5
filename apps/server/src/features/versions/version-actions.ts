import { HOWS, type How } from '@margin-lens/contract';

/** What the writes of versions are called in the list of revisions. */
export const figuresAction = (code: string, how: How, scope: string, label: string): string =>
  `figures ${code}: ${how} ${scope} ${label.replace(/\s+/g, ' ')}`.trim();

const FIGURES = new RegExp(`^figures (\\S+): (${HOWS.join('|')}) (\\S+) ?([^]*)$`);

export interface FigureAction {
  code: string;
  how: How;
  scope: string;
  label: string;
}

/** Reads what `figuresAction` wrote; undefined for other writes. */
export function figureAction(action: string): FigureAction | undefined {
  const found = FIGURES.exec(action);
  return found ? { code: found[1]!, how: found[2] as How, scope: found[3]!, label: found[4]! } : undefined;
}

/** What was done to a version itself, in words; undefined for other writes. */
export function actionOf(action: string, code: string): string | undefined {
  const start = `version ${code}: `;
  return action.startsWith(start) ? action.slice(start.length) : undefined;
}
