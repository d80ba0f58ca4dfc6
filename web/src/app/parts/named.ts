import { Directive, input } from '@angular/core';

/**
 * The name of an element for those who hear the screen, where it holds something that changes: an interpolated
 * `aria-label` cannot be translated by itself, an input of a directive can.
 */
@Directive({ selector: '[tsName]', host: { '[attr.aria-label]': 'tsName()' } })
export class Named {
  readonly tsName = input.required<string>();
}
