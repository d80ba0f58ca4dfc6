import * as z from 'zod';
import './zod.js';

/** RFC 9457 problem details; `errors` names each wrong field and says what to do. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  instance: z.string().optional(),
  /** By which the server's log knows this request. */
  requestId: z.string().optional(),
  errors: z
    .array(
      z.object({
        /** Path of the field in what was sent, for example `entered.text`. */
        field: z.string(),
        message: z.string(),
      }),
    )
    .optional(),
});
export type Problem = z.infer<typeof Problem>;

/** Kinds of problem, each a stable `type` reference relative to the API. */
export const PROBLEMS = {
  invalid: '/problems/invalid-input',
  notJson: '/problems/not-json',
  notAsJson: '/problems/unsupported-media-type',
  foreign: '/problems/foreign-origin',
  wrongMethod: '/problems/method-not-allowed',
  tooMany: '/problems/too-many',
  notSignedIn: '/problems/not-signed-in',
  notAllowed: '/problems/not-allowed',
  noRoom: '/problems/cannot-store',
  tooLarge: '/problems/too-large',
  notFound: '/problems/not-found',
  unknownCode: '/problems/unknown-code',
  misreadCode: '/problems/misread-code',
  staleRevision: '/problems/changed-meanwhile',
  commandReused: '/problems/command-id-reused',
  refused: '/problems/refused',
  retired: '/problems/blade-retired',
  signedOff: '/problems/already-signed-off',
  fault: '/problems/server-fault',
} as const;
export type ProblemKind = keyof typeof PROBLEMS;
