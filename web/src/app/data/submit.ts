import { inject, signal, type Signal } from '@angular/core';
import type { CommandAnswer, ShopAct } from '@tally-stone/contract';
import { firstValueFrom, type Observable } from 'rxjs';
import { Commands, type Report, type Waiting } from './commands';
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
  /** The same for a crew's report, which waits in the browser while there is no signal. */
  report(act: Report): Promise<CommandAnswer | Waiting | undefined>;
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
  }
  return {
    words,
    fields,
    say: (own) => {
      words.set(own);
    },
    send: (act, nameOf = (field) => field) => sent(commands.shop(act), nameOf),
    report: (act) => sent(commands.report(act)),
  };
}
