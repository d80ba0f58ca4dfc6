import { ElementRef, inject, signal, type Signal } from '@angular/core';
import type { AbstractControl, FormGroup } from '@angular/forms';
import type { CommandAnswer, ShopAct } from '@tally-stone/contract';
import { firstValueFrom, type Observable } from 'rxjs';
import { Commands, type Report, type Waiting } from './commands';
import { refuse, showFirstWrong } from './fields';
import { Units } from './units';
import { Presses } from './presses';
import { inUnits, troubleFrom, type Trouble } from './problem';

/** Sends writes of the shop from one screen, and says what is wrong with the last one. */
export interface Submit {
  /** What is wrong, in the screen's own names of the fields; nothing while all is well. */
  readonly words: Signal<string>;
  readonly fields: Signal<Readonly<Record<string, string>>>;
  /** Takes the focus to the first field of the screen that is wrong. */
  showFirstWrong(): void;
  /** Says something of the screen's own instead. */
  say(words: string): void;
  /**
   * The answer where it was kept; nothing where it was refused, which is said. `nameOf` calls a field by another name
   * before it is looked up, for what is one of many.
   */
  send(act: ShopAct, nameOf?: (field: string) => string): Promise<CommandAnswer | undefined>;
  /** The same for a crew's report, which waits in the browser while there is no signal. */
  report(act: Report, file?: Blob): Promise<CommandAnswer | Waiting | undefined>;
}

interface Options {
  /** The screen's name of a field, by its path in the command or the last part of it. */
  readonly names?: Readonly<Record<string, string>>;
  /** The field of the screen's form that a refusal is about: it is said there, and the focus goes there. */
  readonly at?: Finder;
  /** Done after a write was kept, before whoever sent it goes on. */
  readonly kept?: () => unknown;
  readonly refused?: (trouble: Trouble) => void;
}

/** Finds the control that a field of a command was typed in. */
export type Finder = (field: string) => AbstractControl | undefined;

/** By the field's whole path in the form, else by the last name of it that the form knows. */
export const inForm =
  (form: () => FormGroup): Finder =>
  (field) => {
    const names = field.split('.').reverse();
    const known = names.find((name) => form().get(name));
    return (
      form().get(field) ?? (known === undefined ? undefined : (form().get(known) ?? undefined))
    );
  };

/** Called where a component is made: gives what takes the focus to its first field that is wrong. */
export function showsFirstWrong(): () => void {
  const host = inject<ElementRef<HTMLElement>>(ElementRef, { optional: true });
  return () => {
    if (host) showFirstWrong(host.nativeElement);
  };
}

/** Called where a component is made. */
export function submit({ names = {}, at, kept, refused }: Options = {}): Submit {
  const toFirstWrong = showsFirstWrong();
  const presses = new Presses();
  const commands = inject(Commands);
  const units = inject(Units);
  const words = signal('');
  const fields = signal<Readonly<Record<string, string>>>({});
  const called = (field: string): string =>
    names[field] ?? names[field.split('.').at(-1) ?? ''] ?? field.split('.').at(-1) ?? field;
  async function sent<Answer>(
    write: Observable<Answer>,
    nameOf = (field: string): string => field,
  ): Promise<Answer | undefined> {
    try {
      const answer = await firstValueFrom(write);
      words.set('');
      fields.set({});
      await kept?.();
      return answer;
    } catch (error) {
      const trouble = inUnits(troubleFrom(error), (said) => units.resay(said));
      const wrong = Object.entries(trouble.fields).map(
        ([field, message]) => [nameOf(field), message] as const,
      );
      fields.set(Object.fromEntries(wrong));
      const placed = wrong.map(([field, message]) => {
        const control = at?.(field);
        if (control) refuse(control, message);
        return control !== undefined;
      });
      if (placed.some(Boolean)) toFirstWrong();
      if (placed.length > 0 && placed.every(Boolean)) {
        words.set('');
        refused?.(trouble);
        return undefined;
      }
      words.set(
        wrong.length === 0 || wrong.some(([field]) => field.includes(':'))
          ? trouble.words
          : wrong.map(([field, message]) => `${called(field)} ${message}`).join('. '),
      );
      refused?.(trouble);
      return undefined;
    }
  }
  return {
    words,
    fields,
    showFirstWrong: toFirstWrong,
    say: (own) => {
      words.set(own);
    },
    send: (act, nameOf = (field) => field) =>
      presses.once(act, () => sent(commands.shop(act), nameOf)),
    report: (act, file) => presses.once(act, () => sent(commands.report(act, file))),
  };
}
