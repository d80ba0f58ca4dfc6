import { askEarly } from './app/data/early';
import { loadLanguage } from './app/data/language';

// Texts are said in the language that was loaded before the app: the app itself comes after it.
loadLanguage()
  .then(() => {
    // In the language that was just told to the server.
    askEarly(location.pathname);
    return import('./start');
  })
  .then(({ start }) => start())
  .catch((error: unknown) => {
    document.body.textContent = $localize`Tally Stone could not start: ${String(error)}`;
  });
