import {
  ChangeDetectionStrategy,
  Component,
  computed,
  afterRenderEffect,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatTree, MatTreeModule } from '@angular/material/tree';
import type { Cells } from '../shared/sheet/sheet-model';
import { valueTree, type ValueNode } from './value-tree';

/** The dimensions with their values below each other; choosing one shows what is below it in the sheet. */
@Component({
  selector: 'ml-value-tree-pane',
  imports: [MatButtonModule, MatIconModule, MatTreeModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './value-tree-pane.html',
  styleUrl: './value-tree-pane.scss',
})
export class ValueTreePane {
  /** The rows of the sheet, those that are taken out left aside. */
  readonly rows = input.required<readonly Cells[]>();
  /** Key of what is chosen; undefined when the sheet shows all. */
  readonly chosen = input<string>();

  /** What is chosen now; undefined brings all rows back. */
  readonly choose = output<ValueNode | undefined>();

  private readonly tree = viewChild<MatTree<ValueNode, string>>('tree');
  protected readonly nodes = computed(() => valueTree(this.rows()));
  protected readonly childrenOf = ({ children }: ValueNode): ValueNode[] => children;
  protected readonly keyOf = ({ key }: ValueNode): string => key;
  protected readonly trackNode = (_: number, { key }: ValueNode): string => key;

  constructor() {
    let isOpened = false;
    afterRenderEffect(() => {
      const [tree, nodes] = [this.tree(), this.nodes()];
      if (!tree || nodes.length === 0 || isOpened) return;
      isOpened = true;
      // dimensions begin open, as far as they fit; what is below their values is laid open by hand
      untracked(() =>
        nodes.filter(({ children }) => children.length <= OPEN_AT_FIRST).forEach((node) => tree.expand(node)),
      );
    });
  }
}

/** Dimensions with more values than this begin closed. */
const OPEN_AT_FIRST = 40;
