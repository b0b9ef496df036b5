import { randomUUID } from 'node:crypto';
import { Migration } from '@mikro-orm/migrations';
import { FIRST_GENERATION, movedTo, PARTS } from '@margin-lens/core';

/** The person who works here as long as nobody signs in. */
const LOCAL = { id: 'local', name: 'Controller' };

interface EarlierRevision {
  id: number;
  at: string;
  person: string;
  action: string;
}

interface Act {
  kind: string;
  subject: string;
  details: object;
}

/** What a write was, by the text that it was called until then. */
const ACTIONS: [RegExp, (...found: string[]) => Act][] = [
  [/^import ([^]*)$/, (subject) => ({ kind: 'import', subject: subject!, details: {} })],
  [/^undo import ([^]*)$/, (subject) => ({ kind: 'undo_import', subject: subject!, details: {} })],
  [/^adjustment: ([^]*)$/, (reason) => ({ kind: 'adjust', subject: '', details: { reason } })],
  [/^take out adjustment: ([^]*)$/, (subject) => ({ kind: 'take_out_adjustment', subject: subject!, details: {} })],
  [/^set up workspace$/, () => ({ kind: 'set_up_workspace', subject: '', details: {} })],
  [/^set up (\w+)$/, (subject) => ({ kind: 'set_up_table', subject: subject!, details: {} })],
  [
    /^(close|open) ([^]*) of ([^]*)$/,
    (way, periods, subject) => ({
      kind: `${way}_periods`,
      subject: subject!,
      details: { periods: periods!.split(', ') },
    }),
  ],
  [/^books check: seen$/, () => ({ kind: 'mark_seen', subject: '', details: {} })],
  [/^books check: not seen$/, () => ({ kind: 'unmark_seen', subject: '', details: {} })],
  [/^remark$/, () => ({ kind: 'write_remark', subject: '', details: {} })],
  [/^change a remark$/, () => ({ kind: 'change_remark', subject: '', details: {} })],
  [/^take out a remark$/, () => ({ kind: 'take_out_remark', subject: '', details: {} })],
  [/^keep ([^]*)$/, (subject) => ({ kind: 'keep_document', subject: subject!, details: {} })],
  [/^add ([^]*)$/, (subject) => ({ kind: 'add_document', subject: subject!, details: {} })],
  [
    /^figures (\S+): (\w+) (\S+) ?([^]*)$/,
    (subject, how, scope, label) => ({ kind: 'change_figures', subject: subject!, details: { how, scope, label } }),
  ],
  [/^version (\S+): ([^]*)$/, (subject, what) => ({ kind: versionKind(what!), subject: subject!, details: { what } })],
];

function versionKind(what: string): string {
  if (/^(made|branched off)/.test(what)) return 'make_version';
  if (what === 'set up') return 'set_up_version';
  if (what === 'taken out') return 'take_out_version';
  return what === 'brought back' ? 'bring_back_version' : 'move_version';
}

/** A text that none of the writes had is kept as words of one that set something up. */
function actOf(action: string): Act {
  for (const [pattern, act] of ACTIONS) {
    const found = pattern.exec(action);
    if (found) return act(...found.slice(1));
  }
  return { kind: 'set_up_workspace', subject: '', details: { what: action } };
}

/**
 * People have ids, whatever they are called. Writes say what they are, about what, and which parts they moved, in place
 * of a text; drafts and deliveries tell their states apart by a counter.
 */
export class Migration0010PeopleAndRevisions extends Migration {
  override async up(): Promise<void> {
    const people = await this.makePeople();
    await this.run(
      'alter table `workspace_revision` rename to `revision_before`;',
      'create table `workspace_revision` (`id` integer not null primary key autoincrement, `at` text not null, `person` text not null, `kind` text not null, `subject` text not null, `details` json not null, `touches` json not null, `generation` json not null);',
    );
    const revisions = (await this.execute('select id, at, person, action from revision_before')) as EarlierRevision[];
    for (const { id, at, person, action } of revisions) {
      const { kind, subject, details } = actOf(action);
      const moment = JSON.stringify(movedTo(FIRST_GENERATION, PARTS, id));
      await this.execute(
        'insert into `workspace_revision` (id, at, person, kind, subject, details, touches, generation) values (?, ?, ?, ?, ?, ?, ?, ?)',
        [id, at, people(person), kind, subject, JSON.stringify(details), JSON.stringify(PARTS), moment],
      );
    }
    await this.run(
      'drop table `revision_before`;',
      'alter table `import_run` add column `version` integer not null default 1;',
      'alter table `draft` rename to `draft_before`;',
      'create table `draft` (`row_id` integer not null primary key autoincrement, `version` integer not null default 1, `person` text not null, `kind` text not null, `id` text not null, `body` text not null, `base` integer not null, `at` text not null);',
      'create unique index `draft_person_kind_id_unique` on `draft` (`person`, `kind`, `id`);',
      'insert into `draft` (person, kind, id, body, base, at) select person, kind, id, body, base, at from draft_before;',
      'drop table `draft_before`;',
      'alter table `step` rename to `step_before`;',
      'drop index `step_document`;',
      'create table `step` (`seq` integer not null primary key autoincrement, `version` integer not null default 1, `action` text not null, `person` text not null, `kind` text not null, `id` text not null, `label` text not null, `before` text not null, `after` text not null, `at` text not null, `state` text not null, `reverses` text null);',
      'create unique index `step_person_action_kind_id_unique` on `step` (`person`, `action`, `kind`, `id`);',
      'create index `step_document` on `step` (`person`, `kind`, `id`, `seq`);',
      'insert into `step` (seq, action, person, kind, id, label, before, after, at, state, reverses) select seq, action, person, kind, id, label, before, after, at, state, reverses from step_before;',
      'drop table `step_before`;',
    );
    for (const table of ['draft', 'step', 'import_run']) {
      const named = (await this.execute(`select distinct person from \`${table}\``)) as { person: string }[];
      for (const { person } of named)
        await this.execute(`update \`${table}\` set person = ? where person = ?`, [people(person), person]);
    }
    await this.nameDocuments(people);
  }

  /** Makes everyone who is named in the workspace a person; gives the id of a name. */
  private async makePeople(): Promise<(name: string) => string> {
    await this.run(
      'create table `person` (`id` text not null primary key, `version` integer not null default 1, `name` text not null, `rights` json not null, `entities` json not null, `values` json not null);',
      'create unique index `person_name_unique` on `person` (`name`);',
    );
    const written = (await this.execute(
      'select person from workspace_revision union select person from import_run union select person from draft union select person from step',
    )) as { person: string }[];
    const settings = await this.versionSettings();
    const named = settings.flatMap(({ body: { owner, editors } }) => [owner, ...editors.map(({ person }) => person)]);
    const authors = (await this.documents<{ author?: string }>('remark')).map(({ body }) => body.author ?? '');
    const seers = (await this.documents<{ person: string }>('seen')).map(({ body }) => body.person);
    const ids = new Map([[LOCAL.name, LOCAL.id]]);
    for (const name of [...written.map(({ person }) => person), ...named, ...authors, ...seers])
      if (name !== '' && !ids.has(name)) ids.set(name, randomUUID());
    for (const [name, id] of ids)
      await this.execute('insert into `person` (id, name, rights, entities, `values`) values (?, ?, ?, ?, ?)', [
        ...[id, name],
        ...(id === LOCAL.id ? ['"all"', '"all"'] : ['[]', '[]']),
        '{}',
      ]);
    return (name) => ids.get(name) ?? '';
  }

  /** Settings of versions and marks name people by their ids; what an editor may change is said by dimension. */
  private async nameDocuments(people: (name: string) => string): Promise<void> {
    for (const { row, body } of await this.versionSettings()) {
      const editors = body.editors.map(({ person, entities, departments }) => ({
        person: people(person),
        entities,
        values: departments.length > 0 ? { department: departments } : {},
      }));
      await this.rewrite(row, { ...body, owner: people(body.owner), editors });
    }
    for (const { row, body } of await this.documents<{ author?: string }>('remark'))
      if (body.author !== undefined) await this.rewrite(row, { ...body, author: people(body.author) });
    for (const { row, body } of await this.documents<{ person: string }>('seen'))
      await this.rewrite(row, { ...body, person: people(body.person) });
  }

  private versionSettings() {
    return this.documents<EarlierSettings>('version_settings');
  }

  private async documents<T>(kind: string): Promise<{ row: number; body: T }[]> {
    const rows = (await this.execute('select row_id as row, body from document where kind = ?', [kind])) as {
      row: number;
      body: string;
    }[];
    return rows.map(({ row, body }) => ({ row, body: JSON.parse(body) as T }));
  }

  private async rewrite(row: number, body: object): Promise<void> {
    await this.execute('update document set body = ? where row_id = ?', [JSON.stringify(body), row]);
  }

  private async run(...statements: string[]): Promise<void> {
    for (const statement of statements) await this.execute(statement);
  }
}

interface EarlierSettings {
  owner: string;
  editors: { person: string; entities: string[]; departments: string[] }[];
}
