import { Injectable, signal } from '@angular/core';
import type { Unit } from '@tally-stone/core';

/** No hand types so fast from key to key, ms. Common practice, no source. */
const FASTER_THAN_HANDS_MS = 35;
/** Fewer keys may come so close together by chance. */
const LEAST_KEYS = 3;

/** How fast the keys of one field came: a gauge that types its figure is told from a hand by it. */
export class KeyPace {
  private times: number[] = [];

  /** A key of a figure, at the event's own time, ms. */
  note({ key, timeStamp }: Pick<KeyboardEvent, 'key' | 'timeStamp'>): void {
    if (key.length === 1) this.times.push(timeStamp);
    else if (key !== 'Enter') this.times = [];
  }

  clear(): void {
    this.times = [];
  }

  isGauge(): boolean {
    const { times } = this;
    return (
      times.length >= LEAST_KEYS &&
      times.every((time, i) => i === 0 || time - (times[i - 1] ?? 0) < FASTER_THAN_HANDS_MS)
    );
  }
}

const KEPT_AS = 'tally-stone.typing-gauge';

/** The unit in which the gauges of this device type lengths: their own switch says which. */
@Injectable({ providedIn: 'root' })
export class TypingGauge {
  readonly length = signal<Extract<Unit, 'mm' | 'in'>>(
    localStorage.getItem(KEPT_AS) === 'in' ? 'in' : 'mm',
  );

  pick(unit: 'mm' | 'in'): void {
    this.length.set(unit);
    localStorage.setItem(KEPT_AS, unit);
  }
}
