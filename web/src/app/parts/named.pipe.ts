import { Pipe, type PipeTransform } from '@angular/core';
import { named, placeSaid } from '@tally-stone/core/basics';

/** A stored code in words. */
@Pipe({ name: 'named' })
export class NamedPipe implements PipeTransform {
  readonly transform = named;
}

/** Where a blade is, in words. */
@Pipe({ name: 'placeSaid' })
export class PlacePipe implements PipeTransform {
  readonly transform = placeSaid;
}
