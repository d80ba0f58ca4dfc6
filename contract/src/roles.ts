import type { Command } from './commands/command.js';
import { Id, Instant, Secret } from './basics.js';
import { name } from './commands/base.js';
import * as z from 'zod';
import './zod.js';

/** Who works in a shop; each may do what those before it may. */
export const ROLES = ['crew', 'technician', 'manager'] as const;
export const Role = z.enum(ROLES);
export type Role = z.infer<typeof Role>;

/** Who may use a route: nobody in particular, or people of a role and those above it. */
export type Who = 'anyone' | Role;

/** Whether somebody of a role, or nobody yet, may do what is for `who`. */
export const mayDo = (role: Role | undefined, who: Who): boolean =>
  who === 'anyone' || (role !== undefined && ROLES.indexOf(role) >= ROLES.indexOf(who));

/** What crews tell from the field, their own PIN and the language they read. */
const BY_CREW: readonly Command['type'][] = [
  'report-strike',
  'report-cut',
  'look-at-grass',
  'take-back-look',
  'read-hours',
  'set-pin',
  'pick-language',
];
/** What decides how the shop works, who works in it, and when a blade is thrown away. */
const BY_MANAGER: readonly Command['type'][] = [
  'name-shop',
  'add-person',
  'set-rules',
  'add-spec',
  'change-spec',
  'change-limits',
];

/** Who may send a command. */
export const whoSends = (type: Command['type']): Role =>
  BY_CREW.includes(type) ? 'crew' : BY_MANAGER.includes(type) ? 'manager' : 'technician';

/** What a machine may do with its token: read what a technician sees, tell meter hours, pass on what gauges say. */
export const MACHINE_SCOPES = ['read', 'hours', 'gauges'] as const;
export const MachineScope = z.enum(MACHINE_SCOPES);
export type MachineScope = z.infer<typeof MachineScope>;
const BY_MACHINE: Readonly<Record<MachineScope, readonly Command['type'][]>> = {
  read: [],
  hours: ['read-hours'],
  gauges: [],
};

/** Whether a machine's token may ask for what is for `who`. */
export const machineMayRead = (scopes: readonly MachineScope[], who: Who): boolean =>
  who === 'anyone' || (scopes.includes('read') && mayDo('technician', who));

/** Whether a machine's token may send a command. */
export const machineMaySend = (scopes: readonly MachineScope[], type: Command['type']): boolean =>
  scopes.some((scope) => BY_MACHINE[scope].includes(type));

export const MakeMachine = z.object({
  name,
  scopes: z
    .array(MachineScope)
    .min(1, { error: () => $localize`must be at least one: say what it may do` })
    .max(MACHINE_SCOPES.length),
});
export type MakeMachine = z.infer<typeof MakeMachine>;

/** Machines that may use the API. */
export const MachinesView = z.object({
  machines: z.array(
    z.object({
      machineId: z.string(),
      name: z.string(),
      scopes: z.array(MachineScope),
      since: Instant,
      madeBy: z.string(),
      /** When it asked for something last. */
      seenAt: Instant.optional(),
    }),
  ),
});
export type MachinesView = z.infer<typeof MachinesView>;
/** With the token of the one just made: told once, stored nowhere. */
export const MadeMachine = MachinesView.extend({ token: z.string() });
export type MadeMachine = z.infer<typeof MadeMachine>;

export const SignIn = z.object({ personId: Id, pin: Secret });

/** Nobody works in the shop yet: who has the code from the server's own window becomes its manager. */
export const FirstStart = z.object({
  code: z
    .string()
    .max(40, { error: () => $localize`is too long: it has eight letters and digits` }),
  name,
  pin: Secret,
});

/** Since when calendars may be subscribed to; the address itself is told only when it is made. */
export const CalendarAddressView = z.object({ since: Instant.optional() });
export type CalendarAddressView = z.infer<typeof CalendarAddressView>;
/** Makes an address in place of the one before, or takes it away. */
export const CalendarAddressAct = z.object({ act: z.enum(['make', 'end']) });
export type CalendarAddressAct = z.infer<typeof CalendarAddressAct>;
export const CalendarAddress = CalendarAddressView.extend({ path: z.string().optional() });
export type CalendarAddress = z.infer<typeof CalendarAddress>;

/** A link that signs a crew's phone in, once. */
export const JoinLinkAct = z.object({ personId: Id });
export const JoinLink = z.object({ token: z.string(), until: Instant });
export type JoinLink = z.infer<typeof JoinLink>;
export const Join = z.object({
  token: z.string().max(100, { error: () => $localize`is too long for a link of this shop` }),
});

/** Who is signed in on this device; `locked` says that somebody has to be. */
export const SessionView = z.object({
  locked: z.boolean(),
  /** Nobody works in the shop yet: its manager comes first. */
  first: z.boolean().optional(),
  /** Served over HTTPS: a password may stand in for the PIN. */
  secure: z.boolean().optional(),
  personId: Id.optional(),
  name: z.string().optional(),
  role: Role.optional(),
});
export type SessionView = z.infer<typeof SessionView>;

export const SignOut = z.object({ everywhere: z.boolean().optional() });

/** Devices somebody is signed in on: one's own, for a manager everybody's. */
export const DevicesView = z.object({
  devices: z.array(
    z.object({
      deviceId: z.string(),
      name: z.string(),
      device: z.string(),
      address: z.string(),
      since: Instant,
      seenAt: Instant,
      here: z.boolean(),
    }),
  ),
});
export type DevicesView = z.infer<typeof DevicesView>;
