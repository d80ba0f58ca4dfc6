import { loadTranslations } from '@angular/localize';
import { Language, LANGUAGE_COOKIE } from '@tally-stone/contract';
// Core brings the tag texts are said by: it has to be there before any are loaded into it.
import { language as spoken } from '@tally-stone/core/basics';

/** What somebody picked on this device, and what the shop speaks where nobody has. */
const PICKED = 'tally-stone.language';
const SHOPS = 'tally-stone.shop-language';
const YEAR_S = 365 * 24 * 3600;

const kept = (key: string): Language | undefined =>
  Language.safeParse(localStorage.getItem(key)).data;

/** As picked here, else as the shop has it, else as the browser does. */
const wanted = (): Language =>
  kept(PICKED) ?? kept(SHOPS) ?? Language.safeParse(navigator.language.split('-')[0]).data ?? 'en';

let texts: Readonly<Record<string, string>> | undefined;

/** Loads the texts this device reads, before anything is said; tells the server, whose answers are read here too. */
export async function loadLanguage(): Promise<void> {
  const language = wanted();
  document.cookie = `${LANGUAGE_COOKIE}=${language}; path=/; max-age=${YEAR_S}; SameSite=Lax`;
  document.documentElement.lang = language;
  if (language === 'en') return;
  ({ translations: texts } = (await import('@tally-stone/contract/texts/es.json')).default);
  loadTranslations({ ...texts });
  $localize.locale = language;
}

/** The language of this page. */
export const spokenHere = (): Language => Language.catch('en').parse(spoken());

/** From now on this device reads another language; what was typed is kept by the drafts. */
export function pickLanguage(language: Language): void {
  localStorage.setItem(PICKED, language);
  if (language !== spokenHere()) location.reload();
}

/** The shop says what is read where nobody picked; a device that reads another changes over. */
export function followShop(language: Language | undefined): void {
  if (language) localStorage.setItem(SHOPS, language);
  else localStorage.removeItem(SHOPS);
  if (kept(PICKED) === undefined && wanted() !== spokenHere()) location.reload();
}

/** A worker says its sentences in the same language: the texts go to it first of all. */
export function teach(worker: Worker): Worker {
  if (texts) worker.postMessage({ texts });
  return worker;
}
