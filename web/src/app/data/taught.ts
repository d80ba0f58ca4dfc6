// A worker has none of the page’s polyfills.
import '#localize';
import { loadTranslations } from '@angular/localize';

/** Imported first by a worker that says sentences: takes the texts of the page's language when they come. */
addEventListener('message', (event: MessageEvent<{ readonly texts?: Record<string, string> }>) => {
  const { texts } = event.data;
  if (!texts) return;
  event.stopImmediatePropagation();
  loadTranslations(texts);
});
