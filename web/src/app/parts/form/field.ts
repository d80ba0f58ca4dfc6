import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { AbstractControl } from '@angular/forms';
import { map, startWith, switchMap } from 'rxjs';
import { wordsOf } from '../../data/fields';
import { Units } from '../../data/units';

/** What is wrong with a control, kept up to date, its bounds in the units shown. Called where a field is made. */
export const troubleOf = (control: Signal<AbstractControl>): Signal<string> => {
  const units = inject(Units);
  const words = toSignal(
    toObservable(control).pipe(
      switchMap((each) =>
        each.events.pipe(
          startWith(undefined),
          map(() => wordsOf(each)),
        ),
      ),
    ),
    { initialValue: '' },
  );
  return computed(() => units.resay(words()));
};
