import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { Pocket } from './app/pocket/pocket';

bootstrapApplication(App, appConfig)
  .then(({ injector }) => {
    injector.get(Pocket).install();
  })
  .catch((error: unknown) => {
    document.body.textContent = `Tally Stone could not start: ${String(error)}`;
  });
