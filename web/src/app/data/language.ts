import { loadTranslations } from '@angular/localize';
import { Language, LANGUAGE_COOKIE } from '@tally-stone/contract';
// Core brings the tag texts are said by: it has to be there before any are loaded into it.
import { language as spoken } from '@tally-stone/core/basics';

/** What whoever works here reads, what was picked on this device before anybody was known, and what the shop speaks. */
const PERSONS = 'tally-stone.language-of-person';
const PICKED = 'tally-stone.language';
const SHOPS = 'tally-stone.shop-language';
const YEAR_S = 365 * 24 * 3600;

const kept = (key: string): Language | undefined =>
  Language.safeParse(localStorage.getItem(key)).data;

/** As whoever works here picked it, else as picked on this device, as the shop has it, as the browser does. */
const wanted = (): Language =>
  kept(PERSONS) ??
  kept(PICKED) ??
  kept(SHOPS) ??
  Language.safeParse(navigator.language.split('-')[0]).data ??
  'en';

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

/** A device that reads another language now changes over; what was typed is kept by the drafts. */
function follow(key: string, language: Language | undefined): void {
  if (language) localStorage.setItem(key, language);
  else localStorage.removeItem(key);
  if (wanted() !== spokenHere()) location.reload();
}

/** From now on this device reads another language, until somebody works here who picked their own. */
export const pickLanguage = (language: Language): void => {
  localStorage.removeItem(PERSONS);
  follow(PICKED, language);
};

/** Whoever works here now has picked a language, or none. */
export const followPerson = (language: Language | undefined): void => {
  follow(PERSONS, language);
};

/** The shop says what is read where nobody picked. */
export const followShop = (language: Language | undefined): void => {
  follow(SHOPS, language);
};

/** A worker says its sentences in the same language: the texts go to it first of all. */
export function teach(worker: Worker): Worker {
  if (texts) worker.postMessage({ texts });
  return worker;
}
