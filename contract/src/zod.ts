import { config } from 'zod';

/**
 * Imported by every file that makes a schema, for what it does: Zod compiles schemas with `new Function` where it may.
 * The app's content security policy forbids that, and Zod looks when a schema is made, so this has to come before the
 * first one. The files themselves import Zod whole, as `* as z`: so the bundler drops what none of them uses, the
 * sentences of Zod in fifty languages above all.
 */
config({ jitless: true });
