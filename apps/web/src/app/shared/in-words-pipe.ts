import { Pipe, type PipeTransform } from '@angular/core';
import { inWords } from '@margin-lens/core/shown';

/** A name of a dimension, or an id, as people write it. */
@Pipe({ name: 'inWords' })
export class InWordsPipe implements PipeTransform {
  transform(name: string): string {
    return inWords(name);
  }
}
