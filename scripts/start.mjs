import { build, install } from './workspace.mjs';

install();
build();
// The server runs in this very process, so that Ctrl-C reaches it and nothing is left behind.
await import('../server/dist/main.js');
