import { z } from 'zod';

// Zod compiles schemas with `new Function` where it may; the app's content security policy forbids that,
// and Zod looks when a schema is made, so this has to come before the first one.
z.config({ jitless: true });

export { z };
