import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import { DocumentSchema, type DocumentKind, type DocumentStep } from '@margin-lens/core';
import type { StepsView, StepView } from '@margin-lens/contract';
import { StoredStep } from './tables';

/** Steps of one person on one document that can be taken back. */
const STEPS_KEPT = 200; // 10 to 10,000

/** A person's steps on any of the documents (`kind/id`) that can be taken back or done again, in the order of the work. */
export async function stepsOf(em: EntityManager, person: string, documents: readonly string[]): Promise<StepsView> {
  const named = documents.map((key) => {
    const at = key.indexOf('/');
    return { kind: key.slice(0, at) as DocumentKind, id: key.slice(at + 1) };
  });
  const rows = await em.find(
    StoredStep,
    { person, state: { $in: ['done', 'undone'] }, $or: named },
    { orderBy: { seq: 'asc' }, fields: ['action', 'label', 'at', 'state'] },
  );
  const found = new Map<string, StepsView[number]>();
  for (const { action, label, at, state } of rows) {
    const key = JSON.stringify([action, label, state]);
    const known = found.get(key);
    if (!known) found.set(key, { action, label, at, state: state as 'done' | 'undone' });
    else if (at > known.at) known.at = at;
  }
  return [...found.values()];
}

/** What each document was and became in a step; empty where the step is not known. */
export async function findStep(em: EntityManager, person: string, action: string): Promise<DocumentStep[]> {
  const rows = await em.find(StoredStep, { person, action }, { orderBy: { seq: 'asc' } });
  const read = (body: string) => v.parse(DocumentSchema, JSON.parse(body));
  return rows.map(({ before, after }) => ({ before: read(before), after: read(after) }));
}

/** Logs steps in their order. A change logged again under its name has grown since; a new one ends what could be redone. */
export async function logSteps(em: EntityManager, person: string, steps: readonly StepView[]): Promise<void> {
  for (const step of steps) {
    if (step.how === 'change') await endRedo(em, person, step);
    else if (step.of !== undefined) await mark(em, person, step.of, step.how);
    if (step.how !== 'pass_over') await add(em, person, step);
  }
}

const STATES = { undo: 'undone', redo: 'done', pass_over: 'passed_over', change: 'done' } as const;

async function mark(em: EntityManager, person: string, action: string, how: StepView['how']): Promise<void> {
  for (const step of await em.find(StoredStep, { person, action })) step.state = STATES[how];
}

async function endRedo(em: EntityManager, person: string, { changes }: StepView): Promise<void> {
  for (const { after } of changes) {
    const { kind, id } = after;
    const undone = await em.find(StoredStep, { person, kind, id, state: 'undone' });
    const actions = [...new Set(undone.map(({ action }) => action))];
    for (const step of await em.find(StoredStep, { person, state: 'undone', action: { $in: actions } }))
      step.state = 'ended';
  }
}

async function add(em: EntityManager, person: string, { action, label, how, of, changes }: StepView): Promise<void> {
  const state = how === 'change' ? 'done' : 'reversal';
  for (const { before, after } of changes) {
    const { kind, id } = after;
    const grown = { after: JSON.stringify(after), at: new Date().toISOString() };
    const known = await em.findOne(StoredStep, { person, action, kind, id });
    if (known) em.assign(known, grown);
    else
      em.create(StoredStep, {
        ...{ action, person, kind, id, label, state, reverses: of ?? null, before: JSON.stringify(before) },
        ...grown,
      } as never);
    await em.flush();
    const [last] = await em.find(
      StoredStep,
      { person, kind, id },
      { orderBy: { seq: 'desc' }, offset: STEPS_KEPT, limit: 1, fields: ['seq'] },
    );
    if (last) await em.nativeDelete(StoredStep, { person, kind, id, seq: { $lte: last.seq } });
  }
}
