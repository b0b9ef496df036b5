import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { PackDocument, ReaderChoices } from '@margin-lens/core';
import { Choice } from '../shared/choice';
import { WorkspaceStore } from '../shared/workspace-store';
import { ORIENTATIONS, scopeChoices, UNITS } from './pack-choices';
import { PackStore } from './pack-store';

/** What all pages of a pack share: how they lie, what heads and foots them, and what the pack opens with. */
@Component({
  selector: 'ml-pack-form',
  imports: [MatCheckboxModule, MatFormFieldModule, MatInputModule, Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pack-form.html',
  styleUrl: './page-form.scss',
})
export class PackForm {
  protected readonly store = inject(PackStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly UNITS = UNITS;
  protected readonly ORIENTATIONS = ORIENTATIONS;
  protected readonly scopes = computed(() => {
    const state = this.workspaces.state();
    return scopeChoices(state.state === 'loaded' ? state.workspace : undefined);
  });
  protected readonly scope = computed(() => this.store.draft()?.readers?.scope);

  /** Changes settings of the pack; what is empty is left out. */
  protected put(did: string, part: { [K in keyof PackDocument]?: PackDocument[K] | undefined }): void {
    const settings = Object.entries(part).map(([key, value]) => [key, value === '' ? undefined : value]);
    this.store.edit(did, Object.fromEntries(settings) as Partial<PackDocument>);
  }

  protected putScope(scope: ReaderChoices['scope']): void {
    const { scope: _, ...others } = this.store.draft()?.readers ?? {};
    const readers = { ...others, ...(scope && (!scope.may || scope.usual) && { scope }) };
    this.put('who reads it', { readers: Object.keys(readers).length > 0 ? readers : undefined });
  }
}
