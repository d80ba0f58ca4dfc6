import * as z from 'zod';
import './zod.js';
import { Id } from './basics.js';
import type { Who } from './roles.js';

/** One route of the API: the server parses with it, the client builds from it, OpenAPI is written from it. */
export interface Route {
  readonly method: 'get' | 'post';
  readonly path: string;
  readonly summary: string;
  /** Who may use it, where people sign in. */
  readonly who: Who;
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  readonly answer: z.ZodType;
}

/** A route of one thing, by its id. */
export const byId = z.object({ id: Id });
