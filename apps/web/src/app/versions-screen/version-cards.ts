import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { VersionView } from '@margin-lens/contract';
import { ageOf, cardWords } from './version-text';

/** Versions side by side, each drawn as its bars are, and the way to a new one. */
@Component({
  selector: 'ml-version-cards',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './version-cards.html',
  styleUrl: './version-cards.scss',
})
export class VersionCards {
  readonly versions = input.required<readonly VersionView[]>();
  /** Code of the one that is shown. */
  readonly here = input<string>();
  readonly chosen = output<string>();
  /** A new version is wanted. */
  readonly wanted = output();

  protected readonly cards = computed(() => {
    const versions = this.versions();
    return versions.map((version) => ({
      ...version,
      words: cardWords(version, versions),
      age: Math.min(2, ageOf(version, versions)),
      isHere: version.code === this.here(),
    }));
  });
}
