import { build, installBeside } from './workspace.mjs';

const { driver } = await installBeside();
build();
await driver;
// The server runs in this very process, so that Ctrl-C reaches it and nothing is left behind.
await import('../server/dist/main.js');
