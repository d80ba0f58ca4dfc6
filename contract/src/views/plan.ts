import type { PlanAnswer, PlanSituation } from '@tally-stone/core';
import { Counted, Schools } from '../shop.js';
import * as z from 'zod';
import '../zod.js';

const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;

/**
 * What to grind. The server sends the blade's situation with its own answer, so that the screen can ask its
 * worker the same question under another school without going back.
 */
export const PlanView = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('not-yet'), words: z.string() }),
  z.object({
    kind: z.literal('asked'),
    situation: z.custom<PlanSituation>(isObject),
    answer: z.custom<PlanAnswer>(isObject),
    schools: Schools,
    nickChoices: z.record(z.string(), z.enum(['clear', 'leave'])),
    /** The tools of the plan's zones, by their key: those laid down, the one in hand, the one it is finished on. */
    tools: z.record(
      z.string(),
      z.object({ grinderId: z.string().optional(), name: z.string(), counts: Counted }),
    ),
    /**
     * Passes of each tool and zone counted before the balance reading the plan starts from, by both their keys: these
     * come on top.
     */
    behind: z.object({ A: z.record(z.string(), z.int()), B: z.record(z.string(), z.int()) }),
    gramsPerPass: z.object({ value: z.number(), u: z.number(), grinds: z.number() }),
    /** How this technician's hand compares with the tool's usual one, where that is known. */
    hand: z.object({ factor: z.number(), grinds: z.number() }).optional(),
    /** On which tool it was learned. */
    tool: z.string(),
  }),
]);
export type PlanView = z.infer<typeof PlanView>;
export type AskedPlan = Extract<PlanView, { kind: 'asked' }>;
