import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { PAPER, PX } from '@margin-lens/core/shown';
import type { PackSheet } from '@margin-lens/contract';
import { Chart } from './chart';

const ANCHORS = { left: 'start', center: 'middle', right: 'end' } as const;

/** A sheet of paper as it will print: what stands where is said by the server, as for the document. */
@Component({
  selector: 'ml-sheet-view',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + sheet().width + ' ' + sheet().height" role="img" [attr.aria-label]="label()">
      @for (mark of marks(); track $index) {
        @switch (mark.kind) {
          @case ('text') {
            <text
              [attr.x]="mark.x"
              [attr.y]="mark.y"
              [attr.font-size]="mark.size"
              [attr.fill]="'#' + colours[mark.colour]"
              [attr.text-anchor]="anchors[mark.align]"
              [attr.class]="mark.font"
            >
              {{ mark.text }}
            </text>
          }
          @case ('line') {
            <line
              [attr.x1]="mark.x"
              [attr.x2]="mark.x + mark.length"
              [attr.y1]="mark.y"
              [attr.y2]="mark.y"
              [attr.stroke]="'#' + colours[mark.colour]"
              [attr.stroke-width]="mark.thickness"
            />
          }
          @case ('box') {
            <rect
              [attr.x]="mark.x"
              [attr.y]="mark.y"
              [attr.width]="mark.width"
              [attr.height]="mark.height"
              [attr.fill]="'#' + colours[mark.colour]"
            />
          }
          @case ('chart') {
            <g [attr.transform]="'translate(' + mark.x + ' ' + mark.y + ') scale(' + 1 / px + ')'">
              <foreignObject [attr.width]="mark.width * px" [attr.height]="mark.height * px">
                <ml-chart class="chart" [option]="mark.option" [label]="mark.says" />
              </foreignObject>
            </g>
          }
        }
      }
    </svg>
  `,
  styleUrl: './sheet-view.scss',
})
export class SheetView {
  readonly sheet = input.required<PackSheet>();
  readonly label = input.required<string>();
  protected readonly marks = computed(() => this.sheet().marks);
  protected readonly anchors = ANCHORS;
  protected readonly colours = PAPER;
  protected readonly px = PX;
}
