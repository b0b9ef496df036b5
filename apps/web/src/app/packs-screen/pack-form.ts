import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { PackDocument } from '@margin-lens/core';
import { Choice } from '../shared/choice';
import { ORIENTATIONS, UNITS } from '../shared/choice-lists';
import { ReadersField } from '../shared/readers-field';
import { PackStore } from './pack-store';

/** What all pages of a pack share: how they lie, what heads and foots them, and what the pack opens with. */
@Component({
  selector: 'ml-pack-form',
  imports: [Choice, MatFormFieldModule, MatInputModule, ReadersField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pack-form.html',
  styleUrl: './page-form.scss',
})
export class PackForm {
  protected readonly store = inject(PackStore);
  protected readonly UNITS = UNITS;
  protected readonly ORIENTATIONS = ORIENTATIONS;
  /** Changes settings of the pack; what is empty is left out. */
  protected put(did: string, part: { [K in keyof PackDocument]?: PackDocument[K] | undefined }): void {
    const settings = Object.entries(part).map(([key, value]) => [key, value === '' ? undefined : value]);
    this.store.edit(did, Object.fromEntries(settings) as Partial<PackDocument>);
  }
}
