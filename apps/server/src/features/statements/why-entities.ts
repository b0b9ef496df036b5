import type { StatementContext, WhyView } from '@margin-lens/contract';
import { missingInWords, periodName, whyByMember, type Group, type Scope } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee } from '../../base/viewer';
import { mayOpen } from '../workspace/open-scope';
import { openKept, type OpenedStatement } from './open-statement';
import { changeIn, favourOf, sidesShown, sidesIn } from './why-sides';
import { bridgeWords } from '../../base/words';

/** A change that is asked for in a statement. */
interface Question {
  id: string;
  context: StatementContext;
  cell: string;
  /** Parts that stand alone. */
  shown: number;
}

/**
 * The change by the entities of a group: of the group that is looked at, or of the one that the entity heads, whose
 * figure is then told apart in place of the entity's own.
 * @throws SRV_TRACE_UNKNOWN when the cell is no difference
 */
export async function whyByEntities(opened: OpenedStatement, question: Question): Promise<WhyView> {
  const { snapshot, scope } = opened;
  const { model } = snapshot;
  const { cell } = question;
  const sides = sidesIn(opened, cell);
  if (!sides) throw appError('SRV_TRACE_UNKNOWN', { address: cell });
  const [rowId, columnId] = cell.split('~') as [string, string];
  const row = opened.evaluation.row(opened.evaluation.input.rows.byId.get(rowId)!);
  const view: WhyView = {
    ...{ row: row.label, column: columnId, from: 0, to: 0, terms: [], folded: 0 },
    ...{ of: '', base: '', ofNotation: 'actual', baseNotation: 'actual' },
    ...{ note: '', basis: '', problem: null, counts: [], counted: null, varies: false, values: [] },
    unit: opened.evaluation.unit(sides.of),
  };
  const group = model.group(scope.code) ?? model.groups.find(({ topEntity }) => topEntity === scope.code);
  if (!group) return { ...view, problem: bridgeWords.noGroup(scope.name) };
  const whole = group.code === scope.code ? opened : await openOfGroup(opened, question, group);
  if (typeof whole === 'string') return { ...view, problem: whole };
  const change = changeIn(whole, cell);
  if (!change) return { ...view, problem: missingIn(whole, cell) };
  if (whole.scope.members.length < 2) return { ...view, problem: bridgeWords.oneEntity(group.name) };
  const { evaluation } = whole;
  const bridge = whyByMember(evaluation, change, question.shown);
  return {
    ...view,
    row: whole === opened ? row.label : `${row.label}, ${group.name}`,
    ...sidesShown(evaluation, model, change),
    ...{ from: change.from, to: change.to },
    unit: evaluation.unit(change.of),
    terms: (bridge?.terms ?? []).map((term) => ({ ...term, favour: favourOf(row, term.amount) })),
    folded: bridge?.folded ?? 0,
    basis: bridge ? basisOf(whole, group) : '',
    problem: bridge ? null : bridgeWords.noSumOfEntities(row.label, group.name),
  };
}

/** The same statement of a group, or why it cannot be opened. */
async function openOfGroup(
  { snapshot }: OpenedStatement,
  { id, context: { currency: _, ...context } }: Question,
  { code, name }: Group,
): Promise<OpenedStatement | string> {
  const { model, viewer } = snapshot;
  if (!mayOpen(model, viewer, model.scope(code)!)) return bridgeWords.notAllSeen(name);
  const opened = await openKept(snapshot, id, { ...context, scope: code });
  return opened.scope.code === code ? opened : bridgeWords.alwaysOne;
}

/** Why a group's figure has no change to tell apart. */
function missingIn(opened: OpenedStatement, cell: string): string {
  const { evaluation, scope } = opened;
  const { of, base } = sidesIn(opened, cell)!;
  const missing = [of, base].map((node) => evaluation.figure(node)).find(({ amount }) => amount === null)!;
  const words = bridgeWords.missing(scope.name, missingInWords(missing));
  return missing.origin ? `${words} ${bridgeWords.bringRates}` : words;
}

/** What a group's figure is, and which entities do not count in it. */
function basisOf({ scope, source, snapshot }: OpenedStatement, { name }: Group): string {
  const counts = ({ isHeld }: Scope['members'][number]) => isHeld[source.at.ordinal] === 1;
  const held = new Set(scope.members.filter(counts).map(({ entity }) => entity.code));
  const apart = snapshot.model.entities.filter(({ code }) => !held.has(code) && maySee(snapshot.viewer, code));
  const names = apart.map((entity) => entity.name);
  const basis = bridgeWords.basis(name, scope.currency.code);
  return names.length === 0 ? basis : `${basis} ${bridgeWords.apart(periodName(source.at), names)}`;
}
