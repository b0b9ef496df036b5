import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';

const GROUPS: readonly { name: string; keys: readonly [string, string][] }[] = [
  {
    name: 'Everywhere',
    keys: [
      ['Ctrl K', 'Find or do'],
      ['Ctrl S', 'Save what was changed'],
      [',', 'One period back'],
      ['.', 'One period on'],
      ['F6', 'To the place beside, and back'],
      ['?', 'These keys'],
    ],
  },
  {
    name: 'In every sheet',
    keys: [
      ['Ctrl A', 'Select all'],
      ['Shift Alt ← →', 'Make the column narrower or wider'],
      ['Alt P', 'Keep the column in sight while the rest scrolls, or let it go'],
    ],
  },
  {
    name: 'In a statement',
    keys: [
      ['↑ ↓ ← →', 'Move the selection'],
      ['Shift ↑ ↓ ← →', 'Select a block'],
      ['Home, End', 'First and last column'],
      ['Ctrl C', 'Copy the block to a spreadsheet'],
      ['Enter', 'Trace the figure'],
      ['R', 'Write a remark on it'],
      ['Space', 'Fold a total, or lay accounts open'],
      ['O', 'Put lines in order of the column: largest, smallest, as laid out'],
      ['C', 'Charts of the selected row, and back'],
      ['S', 'Shape its rows and columns, and back'],
    ],
  },
  {
    name: 'In a breakdown',
    keys: [
      ['B', 'What the figure could be broken down by; from a statement, too'],
      ['Space', 'Open or close the value'],
      ['+, −', 'Open one level more, or one less'],
      ['F', 'Only the values that are selected, in the table or, with Ctrl, in the chart'],
      ['X', 'Swap what stands down and across'],
    ],
  },
  {
    name: 'In a pack',
    keys: [
      ['↑ ↓, Home, End', 'Another page'],
      ['Alt ↑ ↓', 'Move the page'],
      ['Ins', 'Add a page behind it'],
      ['Del', 'Take the page out'],
      ['Enter', 'Change what it shows'],
      ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
    ],
  },
  {
    name: 'While shaping',
    keys: [
      ['↑ ↓ ← →', 'Go over labels and heads'],
      ['Shift ↑ ↓ ← →', 'Select several'],
      ['Enter, F2', 'Rename in place'],
      ['E', 'Settings of what is selected; Esc comes back'],
      ['Ins', 'New row below, or new column behind'],
      ['D', 'Duplicate'],
      ['G', 'Put rows into a total'],
      ['Alt ↑ ↓', 'Move rows'],
      ['Alt → ←', 'Indent and outdent rows; move columns'],
      ['Ctrl C, X, V', 'Copy, cut and paste, also as text'],
      ['Space', 'Fold a total'],
      ['Del', 'Remove'],
      ['Ctrl Z, Ctrl Shift Z', 'Undo and redo'],
      ['Ctrl Enter, Ctrl S', 'Keep'],
    ],
  },
  {
    name: 'In a planning sheet',
    keys: [
      ['0–9 =', 'Type over the figure; = begins an expression such as =1200*1.02'],
      ['F2', 'Edit the figure'],
      ['Enter, Tab', 'Take it, and go down or on'],
      ['Shift ↑ ↓ ← →', 'Select a block'],
      ['Ctrl R, Ctrl D', 'Fill the selection from its first column, or its first row'],
      ['Ctrl Enter', 'Write what is typed into the whole selection'],
      ['Ctrl C, X, V', 'Copy, cut and paste a block, also with a spreadsheet'],
      ['Del', 'Clear'],
      ['Alt ↓ ↑', 'Open or close the accounts of a row'],
      ['Ctrl Z, Ctrl Shift Z', 'Undo and redo'],
    ],
  },
  {
    name: 'In the lines of the ledger',
    keys: [
      ['↑ ↓ ← →', 'Move over the lines'],
      ['Shift ↑ ↓ ← →', 'Select a block; the foot sums its lines, Ctrl C copies it'],
      ['Enter', 'Show the whole journal'],
      ['Esc', 'Close it'],
    ],
  },
  {
    name: 'In a sheet of the setup',
    keys: [
      ['Enter, F2', 'Edit the cell; typing writes over it'],
      ['Shift ↑ ↓ ← →', 'Select a block'],
      ['Ctrl Enter', 'Write into every selected cell'],
      ['Ctrl R, Ctrl D', 'Fill the selection from its first column, or its first row'],
      ['Ctrl C, X, V', 'Copy, cut and paste blocks, also from spreadsheets'],
      ['Del', 'Clear the selected cells'],
      ['Ctrl Z, Ctrl Shift Z', 'Undo and redo'],
    ],
  },
  {
    name: 'In the Lens',
    keys: [
      ['↑ ↓', 'Choose a term'],
      ['Enter', 'One level down'],
      ['Backspace', 'One level up'],
      ['Esc', 'Back to the sheet, then close'],
    ],
  },
];

/** Every key, in one list. */
@Component({
  selector: 'ml-keys-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1 mat-dialog-title>Keys</h1>
    <mat-dialog-content>
      @for (group of groups; track group.name) {
        <h2>{{ group.name }}</h2>
        <dl>
          @for (key of group.keys; track key[0]) {
            <dt>
              <span class="key">{{ key[0] }}</span>
            </dt>
            <dd>{{ key[1] }}</dd>
          }
        </dl>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button matButton="outlined" type="button" mat-dialog-close>Close</button></mat-dialog-actions
    >
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 130px 1fr;
      gap: 5px 12px;
      margin: 6px 0 16px;
    }
    dd {
      margin: 0;
    }
  `,
})
export class KeysDialog {
  protected readonly groups = GROUPS;
}
