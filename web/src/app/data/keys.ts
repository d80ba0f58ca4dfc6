import { Injectable, signal } from '@angular/core';

/** One key and what it does here. */
export interface KeyBinding {
  readonly key: string;
  readonly does: string;
  readonly run: () => void;
  /** Also while a field has the focus. */
  readonly inFields?: boolean;
  /** Space counts here, also where a button has the focus that Space would press. */
  readonly overButtons?: boolean;
  /** Also in a field that is still empty: nothing that is typed there begins with it. */
  readonly inEmptyField?: boolean;
}

const KEY_NAMES: Readonly<Record<string, string>> = { ' ': $localize`Space` };

/** The keys of the screen in front, so that `?` can show them all. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly layers = signal<readonly (readonly KeyBinding[])[]>([]);
  /** What each key does now: the newest binding hides an older one of the same key. */
  readonly bindings = (): KeyBinding[] => {
    const all = this.layers().flat();
    return all.filter(({ key }, i) => all.findLastIndex((other) => other.key === key) === i);
  };

  /** Adds keys for as long as a screen or step is shown. Returns how to take them away again. */
  use(bindings: readonly KeyBinding[]): () => void {
    this.layers.update((layers) => [...layers, bindings]);
    return () => {
      this.layers.update((layers) => layers.filter((layer) => layer !== bindings));
    };
  }

  /** Runs the newest binding for a key press, unless somebody is typing. True when one ran. */
  press(event: KeyboardEvent): boolean {
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    const typing = isTyping(event.target);
    const onControl = event.key === ' ' && isControl(event.target);
    const binding = this.bindings().findLast(
      ({ key, inFields, inEmptyField }) =>
        key === event.key.toLowerCase() &&
        (!typing || inFields || (inEmptyField && isEmptyField(event.target))),
    );
    if (!binding || (onControl && !binding.overButtons)) return false;
    binding.run();
    return true;
  }

  nameOf(key: string): string {
    return KEY_NAMES[key] ?? key.toUpperCase();
  }
}

const isEmptyField = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement && target.value === '';

/** Inputs that nobody types into. */
const TICKED = ['checkbox', 'radio', 'button', 'submit', 'file'];

function isTyping(target: EventTarget | null): boolean {
  return (
    (target instanceof HTMLInputElement && !TICKED.includes(target.type)) ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLElement &&
      target.closest('[role=combobox],[role=listbox],[role=menu],[role=dialog]') !== null)
  );
}

/** Space presses a focused button by itself; only a key that says so takes that away. */
function isControl(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('button,a') !== null;
}
