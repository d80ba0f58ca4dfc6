import { AsyncLocalStorage } from 'node:async_hooks';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { loadTranslations } from '@angular/localize';
import { Language, LANGUAGE_COOKIE, LANGUAGES } from '@tally-stone/contract';
import cookieParser from 'cookie-parser';
import type { RequestHandler } from 'express';

/** What language is spoken in the work under way; English outside a request. */
const spoken = new AsyncLocalStorage<Language>();

type Texts = Record<string, unknown>;
const said = $localize as typeof $localize & { TRANSLATIONS?: Texts };

/** The texts of a language as they come with the app, by the ids of the English ones. */
function textsOf(language: Language): Texts {
  const file = fileURLToPath(import.meta.resolve(`@tally-stone/contract/texts/${language}.json`));
  const { translations } = JSON.parse(readFileSync(file, 'utf8')) as {
    translations: Record<string, string>;
  };
  loadTranslations(translations);
  const texts = said.TRANSLATIONS ?? {};
  said.TRANSLATIONS = {};
  return texts;
}

const TEXTS = new Map<Language, Texts>([['es', textsOf('es')]]);
const translate = $localize.translate;

// One process speaks to many at once: each text is looked up in the language of whoever it is for.
Object.defineProperties($localize, {
  TRANSLATIONS: { get: () => TEXTS.get(spoken.getStore() ?? 'en') },
  locale: { get: () => spoken.getStore() ?? 'en' },
});
$localize.translate = (parts, values) =>
  spoken.getStore() === 'es' && translate ? translate(parts, values) : [parts, values];

/** Does some work in a language. */
export const speaking = <Result>(language: Language, work: () => Result): Result =>
  spoken.run(language, work);

const readCookies = cookieParser() as RequestHandler;

/** Every request is answered in the language its browser was set to, else the first of ours that it accepts. */
export const inTheirLanguage: RequestHandler = (request, response, next) => {
  readCookies(request, response, () => {
    const { [LANGUAGE_COOKIE]: chosen } = request.cookies as Record<string, string | undefined>;
    const known = Language.safeParse(chosen);
    const accepted = Language.safeParse(request.acceptsLanguages(Object.keys(LANGUAGES)));
    const language = known.success ? known.data : accepted.success ? accepted.data : 'en';
    response.set('Content-Language', language);
    speaking(language, next);
  });
};
