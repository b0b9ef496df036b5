import { Pipe, type PipeTransform } from '@angular/core';
import { countText } from '@margin-lens/core/shown';

/** A count in digits, in the style of whoever reads. */
@Pipe({ name: 'count' })
export class CountPipe implements PipeTransform {
  transform(count: number): string {
    return countText(count);
  }
}
