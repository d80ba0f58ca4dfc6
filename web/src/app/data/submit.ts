import { inject, signal, type Signal } from '@angular/core';
import type { CommandAnswer, ShopAct } from '@tally-stone/contract';
import { firstValueFrom } from 'rxjs';
import { Commands } from './commands';
import { troubleFrom, type Trouble } from './problem';

/** Sends writes of the shop from one screen, and says what is wrong with the last one. */
export interface Submit {
  /** What is wrong, in the screen's own names of the fields; nothing while all is well. */
  readonly words: Signal<string>;
  readonly fields: Signal<Readonly<Record<string, string>>>;
  /** Says something of the screen's own instead. */
  say(words: string): void;
  /**
   * The answer where it was kept; nothing where it was refused, which is said. `nameOf` calls a field by another name
   * before it is looked up, for what is one of many.
   */
  send(act: ShopAct, nameOf?: (field: string) => string): Promise<CommandAnswer | undefined>;
}

interface Options {
  /** The screen's name of a field, by its path in the command or the last part of it. */
  readonly names?: Readonly<Record<string, string>>;
  /** Done after a write was kept, before whoever sent it goes on. */
  readonly kept?: () => unknown;
  readonly refused?: (trouble: Trouble) => void;
}

/** Called where a component is made. */
export function submit({ names = {}, kept, refused }: Options = {}): Submit {
  const commands = inject(Commands);
  const words = signal('');
  const fields = signal<Readonly<Record<string, string>>>({});
  const called = (field: string): string =>
    names[field] ?? names[field.split('.').at(-1) ?? ''] ?? field.split('.').at(-1) ?? field;
  return {
    words,
    fields,
    say: (said) => {
      words.set(said);
    },
    async send(act, nameOf = (field) => field) {
      try {
        const answer = await firstValueFrom(commands.shop(act));
        words.set('');
        fields.set({});
        await kept?.();
        return answer;
      } catch (error) {
        const trouble = troubleFrom(error);
        const wrong = Object.entries(trouble.fields).map(
          ([field, message]) => [nameOf(field), message] as const,
        );
        fields.set(Object.fromEntries(wrong));
        words.set(
          wrong.length === 0 || wrong.some(([field]) => field.includes(':'))
            ? trouble.words
            : wrong.map(([field, message]) => `${called(field)} ${message}`).join('. '),
        );
        refused?.(trouble);
        return undefined;
      }
    },
  };
}
