import type { Page } from '@playwright/test';
import { expect } from './shop-test';

/** Counts every key pressed, passes apart. */
export class Counted {
  keys = 0;
  constructor(private readonly page: Page) {}

  async press(key: string): Promise<void> {
    this.keys += 1;
    await this.page.keyboard.press(key);
  }

  /** Presses when the focus has come to a thing of that name. */
  async on(name: RegExp, key = 'Enter'): Promise<void> {
    await expect(this.page.locator(':focus')).toHaveAccessibleName(name);
    await this.press(key);
  }

  /** Takes every reading asked for, one key each, until the focus has left the fields. */
  async takeAll(phase: 'before' | 'after'): Promise<string[]> {
    const field = this.page.locator(`:focus[id^="${phase}-"]`);
    const taken: string[] = [];
    await field.waitFor();
    for (let i = 0; i < 40; i++) {
      const id = (await this.page.locator(':focus').getAttribute('id')) ?? '';
      if (!id.startsWith(`${phase}-`)) return taken;
      taken.push(id);
      await this.press('t');
      await this.page.locator(`:focus:not(#${id})`).waitFor();
    }
    return taken;
  }
}

export async function openByCode(page: Page, address: string, code: string): Promise<void> {
  await page.goto(address);
  await expect(page.locator(':focus')).toHaveAccessibleName(/Which blade/);
  await page.keyboard.type(code);
  await page.keyboard.press('Enter');
}

export const step = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Working order' })
    .getByRole('button', { name: new RegExp(`^${name}`) });
