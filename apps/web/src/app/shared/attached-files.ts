import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';

/** A file that is attached: where it opens, and what it hangs on where that is not plain. */
export interface FileShown {
  name: string;
  url: string;
  aside?: string;
}

/** Files that are attached: to open, to take out, and to attach more. */
@Component({
  selector: 'ml-attached-files',
  imports: [MatButtonModule, MatIcon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (file of files(); track $index) {
        <li>
          <a [href]="file.url" download data-testid="file">{{ file.name }}</a>
          @if (file.aside) {
            <span class="thin">{{ file.aside }}</span>
          }
          <button
            matIconButton
            type="button"
            [disabled]="isBusy()"
            [attr.aria-label]="'Take out ' + file.name"
            (click)="detach.emit($index)"
          >
            <mat-icon svgIcon="close" />
          </button>
        </li>
      } @empty {
        <li class="thin">{{ none() }}</li>
      }
    </ul>
    <input #chosen type="file" multiple hidden data-testid="files" (change)="choose(chosen)" />
    <button matButton="outlined" type="button" [disabled]="isBusy()" (click)="chosen.click()">Attach</button>
  `,
  styleUrl: './attached-files.scss',
})
export class AttachedFiles {
  readonly files = input.required<readonly FileShown[]>();
  /** What is said where there are none. */
  readonly none = input.required<string>();
  readonly isBusy = input(false);
  readonly attach = output<File[]>();
  /** Place of the file to take out, from 0. */
  readonly detach = output<number>();

  protected choose(chosen: HTMLInputElement): void {
    const files = [...(chosen.files ?? [])];
    chosen.value = '';
    if (files.length > 0) this.attach.emit(files);
  }
}
