import * as z from 'zod';
import './zod.js';

/** The languages whose texts come with the app, each by its own name. */
export const LANGUAGES = { en: 'English', es: 'Español' } as const;
export type Language = keyof typeof LANGUAGES;
export const Language = z.enum(Object.keys(LANGUAGES) as [Language, ...Language[]]);
/** The cookie that says what this browser reads: server and app go by the same. */
export const LANGUAGE_COOKIE = 'language';
