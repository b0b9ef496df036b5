import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { inWords, sentenceCase } from '@margin-lens/core/shown';
import type { VersionView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { VersionsApi } from '../shared/versions-api';
import { ContextStore } from '../shared/context-store';
import { UndoButtons } from '../shared/undo-buttons';
import { LAST_YEAR } from './load-sheet';
import { PlanningStore } from './planning-store';
import { VersionActs } from './version-acts';
import { VersionPlace } from './version-place';
import { NEXT_STEP } from './version-text';
import { InWordsPipe } from '../shared/in-words-pipe';

/** Columns of a statement that are its months. */
const MONTHS = 'twelve_months';

/** What is done with a version and its sheet as a whole. */
@Component({
  selector: 'ml-version-menus',
  imports: [InWordsPipe, MatButtonModule, MatIconModule, MatMenuModule, UndoButtons],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './version-menus.html',
  styles: ':host { display: contents; }',
})
export class VersionMenus {
  readonly isPanelOpen = input.required<boolean>();
  /** The panel is to be opened. */
  readonly panel = output();
  /** A sheet is to be brought back. */
  readonly sheet = output();
  /** Steps that were taken, and templates, are asked for. */
  readonly steps = output();
  /** The selection is to be copied with the names of its rows and months. */
  readonly headed = output();
  /** The branch is to be taken over. */
  readonly adopt = output<VersionView>();

  protected readonly place = inject(VersionPlace);
  protected readonly store = inject(PlanningStore);
  protected readonly acts = inject(VersionActs);
  protected readonly contexts = inject(ContextStore);
  protected readonly api = inject(Api);
  protected readonly versions = inject(VersionsApi);
  protected readonly LAST_YEAR = LAST_YEAR;
  protected readonly NONE_OPEN: ReadonlySet<string> = new Set();
  protected readonly next = computed(() => NEXT_STEP[this.place.version()?.state ?? 'locked']);

  /** The dimensions that are planned by. */
  protected byWords(starts = false): string {
    const words = this.place.by().map(inWords).join(' and ');
    return starts ? sentenceCase(words) : words;
  }
  /** The statement of the rows by months, with totals and formulas; the rows that are open with their accounts. */
  protected readonly statementUrl = computed(() => {
    const [workspace, version] = [this.place.workspace(), this.place.version()];
    const statement = workspace?.statements.find(({ rows }) => rows === this.place.rows());
    if (!workspace?.columnLayouts.some(({ id }) => id === MONTHS) || !statement || !version) return undefined;
    const open = [...this.store.open()].filter((id) => !id.includes(':')).map((id) => `${id}:accounts`);
    return this.api.exportUrl(
      statement.id,
      {
        ...this.place.sheetPart(),
        ...{ as_at: version.to, version: version.code, columns: MONTHS },
        ...(open.length > 0 && { open: open.join(',') }),
      },
      { format: 'xlsx', unit: this.store.unit() },
    );
  });
  protected readonly rowsName = computed(() => this.place.layouts().find(({ id }) => id === this.place.rows())?.name);

  /** Opens the rows of the layout; with `values` also the accounts or values below them. */
  protected openAll(values: boolean): void {
    const idsOf = (isOfLayout: boolean) =>
      (this.store.model()?.rows ?? []).flatMap((row) =>
        row.opens !== undefined && (row.kind === 'layout') === isOfLayout ? [row.opens] : [],
      );
    const ofLayout = idsOf(true);
    this.store.open.set(new Set(ofLayout));
    if (values) this.store.open.set(new Set([...ofLayout, ...idsOf(false)]));
  }
}
