import { afterNextRender, Directive, ElementRef, inject } from '@angular/core';

/** A form that a press has opened: its first field has the focus, so that what is typed next lands in it. */
@Directive({ selector: 'form[tsOpened]' })
export class Opened {
  constructor() {
    const form = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      form.querySelector<HTMLElement>('input:not([hidden]), mat-select, textarea')?.focus();
    });
  }
}
