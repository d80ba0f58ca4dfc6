import type { Page } from '@playwright/test';
import type { CycleView } from '@tally-stone/contract';
import { expect } from './shop-test';

export const focus = (page: Page) => page.locator(':focus');
const nameOf = async (page: Page): Promise<string> =>
  (await focus(page).getAttribute('aria-label')) ?? (await focus(page).textContent()) ?? '';

/** Passes still to be counted at an end, as its head says. */
async function passesLeft(page: Page, end: string): Promise<number> {
  const head = page.getByRole('region', { name: `End ${end}`, exact: true }).locator('header');
  const [, done, wanted] = /(\d+)(?:\s*of\s*(\d+))?$/.exec((await head.textContent()) ?? '') ?? [];
  return Math.max(0, Number(wanted ?? 0) - Number(done ?? 0));
}

/**
 * Follows the focus of one blade to the rack: whatever it stands on is what is to be done next. It waits without
 * `expect`, which describes the whole page at every look that finds nothing yet: a third of the time of a run.
 */
export async function followToRack(page: Page, view: () => Promise<CycleView>): Promise<number> {
  let touches = 0;
  for (let i = 0; i < 90; i++) {
    await focus(page).waitFor();
    const id = (await focus(page).getAttribute('id')) ?? '';
    const name = await nameOf(page);
    const step = await page.locator('.step').getAttribute('data-step');
    if (/^(before|after)-/.test(id)) {
      await page.keyboard.press('t');
      touches += 1;
      await page.locator(`:focus:not(#${id})`).waitFor();
    } else if (name.includes('One pass')) {
      const end = (await passesLeft(page, 'A')) > 0 ? 'A' : 'B';
      const more = await passesLeft(page, end);
      if (more === 0) {
        // The step goes on a frame later: nothing is read off the old one meanwhile.
        await page.keyboard.press(']');
        touches += 1;
        await page.locator('.step:not([data-step="grind"])').waitFor();
      } else {
        const told = page
          .getByRole('region', { name: `End ${end}`, exact: true })
          .getByLabel(/^Add /);
        await told.fill(String(more));
        const at = await page.locator('.step').getAttribute('data-step');
        await told.press('Enter', { timeout: 10_000 }).catch((error: unknown) => {
          throw new Error(`the field of passes went away at ${at ?? ''}`, { cause: error });
        });
        touches += 2;
        // A plan that was still on its way may want one more: the next round asks again.
        await expect.poll(() => passesLeft(page, end)).toBeLessThan(more);
        await page.getByRole('button', { name: 'One pass' }).first().focus();
      }
    } else if (step === 'balance') {
      const { burr, rounds, passes, before } = await view();
      if (before.verdict === 'grind' && passes.length === 0) {
        // Hung before the grind: which end is low is enough to go on.
        if (rounds.length === 0) {
          await page.keyboard.press('l');
          await page.getByRole('button', { name: 'Keep this reading' }).click();
          touches += 2;
          await expect.poll(async () => (await view()).rounds.length).toBe(1);
        }
        await page.getByRole('button', { name: /^On to: (set up|grind)/i }).click();
        touches += 1;
        continue;
      }
      if (burr) {
        await page.getByRole('button', { name: /^Deburred/ }).click();
        touches += 1;
        await expect.poll(async () => (await view()).burr).toBe(false);
        continue;
      }
      // One that does not fit the one before is hung again: two that agree decide.
      if (!rounds.some(({ phase }) => phase === 'after') || rounds.at(-1)?.expected) {
        await page.keyboard.press('l');
        await page.getByRole('button', { name: 'Keep this reading' }).click();
        touches += 2;
        await expect.poll(async () => (await view()).rounds.length).toBeGreaterThan(rounds.length);
      }
      await page.keyboard.press(']');
      touches += 1;
      await page.locator('.step[data-step="prove"]').waitFor();
    } else if (name.includes('Ready for the rack')) {
      await page.keyboard.press('Enter');
      await page.getByRole('heading', { name: 'Ready, in the rack' }).waitFor();
      return touches + 1;
    } else {
      await page.keyboard.press('Enter');
      touches += 1;
      await page.waitForTimeout(120);
    }
  }
  const step = await page.locator('.step').getAttribute('data-step');
  throw new Error(
    `the blade did not come to the rack: at ${step ?? ''}, on "${await nameOf(page)}", ${(await view()).steps.map(({ key, state, words }) => `${key} ${state} ${words}`).join('; ')}`,
  );
}
