import { bootstrapApplication } from '@angular/platform-browser';
import { z } from 'zod';
import { App } from './app/app';
import { appConfig } from './app/app.config';

// Zod compiles schemas with `new Function` where it can; the content security policy forbids that.
z.config({ jitless: true });

bootstrapApplication(App, appConfig).catch((error: unknown) => {
  document.body.textContent = `Tally Stone could not start: ${String(error)}`;
});
