// By a name of this package: the web build would warn of it, where the texts come before core in any case.
import '#localize';

/**
 * The language texts are said in: set where the app starts, on the server by whoever asks. English where nobody has
 * said another.
 * @example language() // 'en'
 */
export const language = (): string => $localize.locale ?? 'en';
