import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import { DocumentSchema, type DocumentStep } from '@margin-lens/core';
import type { StepsView, StepView } from '@margin-lens/contract';
import type { Viewer } from '../../base/viewer';

/** Steps of one person on one document that can be taken back. */
const STEPS_KEPT = 200; // 10 to 10,000

type State = 'done' | 'undone';

/** The steps of work on documents, by person: what can be taken back and done again, also in another sitting. */
export class StepStore {
  constructor(private readonly em: () => EntityManager) {}

  /** Steps on any of the documents (`kind/id`), in the order of the work. */
  async of(viewer: Viewer, documents: readonly string[]): Promise<StepsView> {
    return this.em()
      .getConnection()
      .execute<StepsView>(
        `select action, label, max(at) at, state from step
       where person = ? and state in ('done', 'undone') and kind || '/' || id in (${documents.map(() => '?').join(', ')})
       group by action, label, state order by min(seq)`,
        [viewer.name, ...documents],
      );
  }

  /** What each document was and became in a step; empty where the step is not known. */
  async find(viewer: Viewer, action: string): Promise<DocumentStep[]> {
    const rows = await this.em()
      .getConnection()
      .execute<{ before: string; after: string }[]>(
        'select before, after from step where person = ? and action = ? order by seq',
        [viewer.name, action],
      );
    const read = (body: string) => v.parse(DocumentSchema, JSON.parse(body));
    return rows.map(({ before, after }) => ({ before: read(before), after: read(after) }));
  }

  /** Logs steps in their order. A change logged again under its name has grown since; a new one ends what could be redone. */
  async log(viewer: Viewer, steps: readonly StepView[]): Promise<void> {
    for (const step of steps) {
      if (step.how === 'change') await this.endRedo(viewer, step);
      else if (step.of !== undefined) await this.mark(viewer, step.of, step.how);
      if (step.how !== 'pass_over') await this.add(viewer, step);
    }
  }

  private async mark(viewer: Viewer, action: string, how: StepView['how']): Promise<void> {
    const state = { undo: 'undone', redo: 'done', pass_over: 'passed_over', change: 'done' }[how];
    await this.run('update step set state = ? where person = ? and action = ?', [state, viewer.name, action]);
  }

  private async endRedo(viewer: Viewer, { changes }: StepView): Promise<void> {
    for (const { after } of changes)
      await this.run(
        `update step set state = 'ended' where person = ? and state = 'undone' and action in
           (select action from step where person = ? and kind = ? and id = ?)`,
        [viewer.name, viewer.name, after.kind, after.id],
      );
  }

  private async add(viewer: Viewer, { action, label, how, of, changes }: StepView): Promise<void> {
    const state: State | 'reversal' = how === 'change' ? 'done' : 'reversal';
    for (const { before, after } of changes) {
      const key = [viewer.name, after.kind, after.id];
      await this.run(
        `insert into step (action, person, kind, id, label, before, after, at, state, reverses) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
         on conflict (person, action, kind, id) do update set after = excluded.after, at = excluded.at`,
        [
          action,
          ...key,
          label,
          JSON.stringify(before),
          JSON.stringify(after),
          new Date().toISOString(),
          state,
          of ?? null,
        ],
      );
      await this.run(
        `delete from step where person = ? and kind = ? and id = ? and seq <=
           (select seq from step where person = ? and kind = ? and id = ? order by seq desc limit 1 offset ${STEPS_KEPT})`,
        [...key, ...key],
      );
    }
  }

  private async run(sql: string, parameters: unknown[]): Promise<void> {
    await this.em().execute(sql, parameters);
  }
}
