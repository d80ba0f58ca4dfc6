import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { Pocket } from './app/pocket/pocket';

export async function start(): Promise<void> {
  const { injector } = await bootstrapApplication(App, appConfig);
  injector.get(Pocket).install();
}
