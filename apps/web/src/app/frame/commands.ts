import { inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatDialog } from '@angular/material/dialog';
import { catchError, of, take } from 'rxjs';
import type { MakingsView, WorkspaceView } from '@margin-lens/contract';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { SETUP_TABS } from '../setup-screen/setup-tabs';
import { Api } from '../shared/api';
import { ACTION_LABELS, ACTION_WORDS } from '../versions-screen/action-labels';
import { Beside } from '../shared/beside';
import { ContextStore } from '../shared/context-store';
import { asAtText, NEW_STATEMENT, scopeOf, type ViewContext } from '../shared/view-context';
import { WorkspaceStore } from '../shared/workspace-store';
import { questionOf } from '../statement/statement-store';
import type { Command } from './find-commands';
import { placesFor } from './places';
import { placesBeside } from './places-beside';
import { UNIT_CHOICES } from './top-bar';

/** Everything that can be gone to or done from anywhere, with the words that people use for it. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly beside = inject(Beside);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly api = inject(Api);
  private readonly dialogs = inject(MatDialog);
  private readonly makings = toSignal(this.api.makings().pipe(catchError(() => of(undefined))));

  /** All of them; the more particular kinds last. */
  all(): Command[] {
    const state = this.workspaces.state();
    if (state.state !== 'loaded') return [];
    const { workspace } = state;
    const context = this.contexts.context();
    return [
      ...this.places(),
      ...this.documents(workspace),
      ...placesBeside(workspace)
        .flat()
        .map(({ name, path }) => ({
          kind: 'Beside',
          label: `${name}, side by side`,
          words: 'two split window next to pane',
          run: () => this.beside.open(path),
        })),
      ...this.actions(),
      ...(workspace.versions.length > 0 ? this.ofPlans() : []),
      ...(context ? this.inContext(context) : []),
      ...this.ofBooks(workspace, this.makings()),
    ];
  }

  private places(): Command[] {
    const goTo = (path: string) => () => this.contexts.goTo(path, { ...NO_LINES, ...NEW_STATEMENT });
    const places = placesFor(this.workspaces.hasBooks());
    const shown = places.map(({ name, path, words }) => ({ kind: 'Place', label: name, words, run: goTo(path) }));
    if (!this.workspaces.hasBooks()) return shown;
    return [
      ...shown,
      { kind: 'Place', label: 'Ledger lines', words: 'journal lines postings entries', run: goTo('/ledger/lines') },
      {
        kind: 'Place',
        label: 'Completeness',
        words: 'postings with values dimensions unassigned quality',
        run: goTo('/ledger/completeness'),
      },
      {
        kind: 'Place',
        label: 'Missing values',
        words: 'complete rules unassigned dimensions',
        run: goTo('/ledger/missing-values'),
      },
      {
        kind: 'Place',
        label: 'Deliveries compared',
        words: 'compare two deliveries what changed redelivered',
        run: goTo('/deliveries/compare'),
      },
      ...SETUP_TABS.map(({ path, label, words }) => ({
        kind: 'Setup',
        label,
        words,
        run: goTo(`/setup/${path}`),
      })),
    ];
  }

  private documents(workspace: WorkspaceView): Command[] {
    const { packs, statements, breakdowns, versions, scopes, columnLayouts, allocations, completions } = workspace;
    const { contexts } = this;
    return [
      ...statements.map(({ id, name }) => ({
        kind: 'Statement',
        label: name,
        words: 'report',
        run: () => contexts.openStatement(id),
      })),
      ...packs.map(({ id, name }) => ({
        kind: 'Pack',
        label: name,
        words: 'reporting pages print',
        run: () => contexts.goTo(`/packs/${id}`, { ...NO_LINES, ...NEW_STATEMENT }),
      })),
      ...breakdowns.map(({ id, name }) => ({
        kind: 'Breakdown',
        label: name,
        words: 'pivot dimensions',
        run: () => contexts.openBreakdown(id),
      })),
      ...versions.map(({ code, name, kind }) => ({
        kind: 'Version',
        label: name,
        words: `${code} ${kind} budget planning sheet submit approve lock`,
        run: () => contexts.goTo(`/versions/${code}`, { ...NO_LINES, ...NEW_STATEMENT }),
      })),
      ...allocations.map(({ id, name }) => ({
        kind: 'Allocation',
        label: name,
        words: 'shared costs spread keys',
        run: () => contexts.goTo(`/allocations/${id}`, { ...NO_LINES, ...NEW_STATEMENT }),
      })),
      ...completions.map(({ id, name }) => ({
        kind: 'Missing values',
        label: name,
        words: 'complete rules unassigned',
        run: () => contexts.goTo(`/ledger/missing-values/${id}`, { ...NO_LINES, ...NEW_STATEMENT }),
      })),
      ...scopes.flatMap(({ code, depth }) => {
        const scope = scopeOf(workspace, code);
        if (!scope) return [];
        const words = 'topEntity' in scope ? 'group consolidated' : 'entity company';
        const run = () => contexts.setScope(code);
        return { kind: 'Scope', label: `${'› '.repeat(depth)}${scope.name} (${code})`, words, run };
      }),
      ...columnLayouts.map(({ id, name }) => ({
        kind: 'Columns',
        label: name,
        words: 'layout',
        run: () => contexts.setColumns(id),
      })),
    ];
  }

  private actions(): Command[] {
    return [
      {
        kind: 'Do',
        label: 'New pack',
        words: 'create report pages',
        run: () => this.contexts.goTo('/packs/new', { ...NO_LINES, ...NEW_STATEMENT }),
      },
      {
        kind: 'Do',
        label: 'New statement',
        words: 'create report',
        run: () => this.openNewStatement(),
      },
      {
        kind: 'Do',
        label: 'Bring in a delivery',
        words: 'import upload files',
        run: () => this.contexts.goTo('/deliveries', NO_LINES),
      },
      {
        kind: 'Do',
        label: 'Numbers and days',
        words: 'locale language format decimal comma point thousands date order style settings',
        run: () => void import('./style-dialog').then((m) => m.openStyleDialog(this.dialogs)),
      },
      {
        kind: 'Do',
        label: 'Export the whole workspace as a ledger package',
        words: 'backup download zip',
        run: () => location.assign(this.api.packageUrl()),
      },
    ];
  }

  /** What is done in the planning sheet that is open, or in the draft. */
  private ofPlans(): Command[] {
    const path = this.contexts.path().startsWith('/versions/') ? this.contexts.path() : '/versions';
    return (Object.keys(ACTION_LABELS) as (keyof typeof ACTION_LABELS)[]).map((action) => ({
      kind: 'Plan',
      label: `${ACTION_LABELS[action]}…`,
      words: `plan ${ACTION_WORDS[action]}`,
      run: () => this.contexts.goTo(path, { ...NO_LINES, ...NEW_STATEMENT, do: action }),
    }));
  }

  private inContext(context: ViewContext): Command[] {
    const { contexts } = this;
    const { statement, unit, periods, currency, order } = context;
    const save = (format: 'xlsx' | 'csv' | 'pdf') => () =>
      location.assign(this.api.exportUrl(statement, questionOf(context), { format, unit, order }));
    return [
      {
        kind: 'Do',
        label: context.isShaped ? 'Read this statement' : 'Shape this statement',
        words: 'edit design rows columns layout',
        run: () => contexts.setShaped(!context.isShaped),
      },
      {
        kind: 'Do',
        label: context.isCharted ? 'Read this statement as a table' : 'Charts of this statement',
        words: 'graph bridge waterfall',
        run: () => contexts.toggleCharts(),
      },
      { kind: 'Export', label: 'Spreadsheet (XLSX)', words: 'excel workbook download', run: save('xlsx') },
      { kind: 'Export', label: 'Pages for paper (PDF)', words: 'print download', run: save('pdf') },
      { kind: 'Export', label: 'Text (CSV)', words: 'download', run: save('csv') },
      ...UNIT_CHOICES.map(({ unit: choice, label }) => ({
        kind: 'Currency',
        label: `${currency} ${label}`,
        words: 'unit thousands millions',
        run: () => contexts.setUnit(choice),
      })),
      ...[...periods].reverse().map((period) => ({
        kind: 'As at',
        label: period.name,
        words: `${period.key} ${asAtText(period)} month period`,
        run: () => contexts.setAsAt(period),
      })),
    ];
  }

  /** Accounts lead to their lines, rows to the statement that shows them. */
  private ofBooks({ statements, defaults }: WorkspaceView, makings: MakingsView | undefined): Command[] {
    const { contexts } = this;
    const [here, usual] = [contexts.context()?.statement, defaults.statement];
    const accounts = (makings?.accounts ?? []).map(({ number, name, heading }) => ({
      kind: 'Account',
      label: `${number} ${name}`,
      words: `${heading} ledger lines`,
      run: () => contexts.goTo('/ledger/lines', { ...NO_LINES, ...NEW_STATEMENT, account: number }),
    }));
    const rows = (makings?.rowLayouts ?? []).flatMap((layout) => {
      const showing = statements.filter((statement) => statement.rows === layout.id);
      const shownIn = showing.find(({ id }) => id === here) ?? showing.find(({ id }) => id === usual) ?? showing[0];
      return shownIn === undefined
        ? []
        : layout.rows
            .filter(({ label }) => label.trim() !== '')
            .map(({ id, label }) => ({
              kind: 'Row',
              label: `${label} · ${shownIn.name}`,
              words: layout.name,
              run: () => contexts.openStatement(shownIn.id, false, id),
            }));
    });
    return [...accounts, ...rows];
  }

  /** The dialog of a new statement opens when the palette is gone. */
  private openNewStatement(): void {
    this.dialogs.afterAllClosed.pipe(take(1)).subscribe(() => {
      void import('../statements-screen/new-statement-dialog').then(({ NewStatementDialog }) =>
        this.dialogs.open(NewStatementDialog, { width: '460px', enterAnimationDuration: 0 }),
      );
    });
  }
}
