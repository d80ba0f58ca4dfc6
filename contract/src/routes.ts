import * as z from 'zod';
import './zod.js';
import { PageQuery } from './basics.js';
import { Command } from './commands/command.js';
import { FLEET_ROUTES } from './fleet-routes.js';
import { GaugeLines, InstrumentAct, InstrumentAnswer } from './instruments.js';
import { SchoolCostsView } from './school-costs.js';
import { SeasonView } from './season.js';
import { LimitPreview, LimitShape, SpecFigures, SpecRevision } from './specs.js';
import { AcceptedCommand, CycleView, LeaseAct, LeaseView } from './views/cycle.js';
import { AheadView, BatchView, ShiftView } from './views/ahead.js';
import {
  BenchView,
  BladeList,
  BladeQuery,
  CodeAnswer,
  RackView,
  LivesQuery,
  LivesView,
  RegisterQuery,
  RegisterView,
} from './views/blade.js';
import { BladeView } from './views/life.js';
import { Health, Person, RecordView, ShopView } from './views/common.js';
import { PlanView } from './views/plan.js';
import {
  CalendarAddress,
  CalendarAddressAct,
  CalendarAddressView,
  DevicesView,
  FirstStart,
  Join,
  JoinLink,
  JoinLinkAct,
  MachinesView,
  MadeMachine,
  MakeMachine,
  SessionView,
  SignIn,
  SignOut,
} from './roles.js';
import { byId, type Route } from './route.js';

export const ROUTES = {
  session: {
    method: 'get',
    path: '/api/v1/session',
    summary: 'Who is signed in on this device',
    who: 'anyone',
    answer: SessionView,
  },
  signIn: {
    method: 'post',
    path: '/api/v1/sign-in',
    summary: 'Signs a person in on this device by their PIN',
    who: 'anyone',
    body: SignIn,
    answer: SessionView,
  },
  signOut: {
    method: 'post',
    path: '/api/v1/sign-out',
    summary: 'Signs out, on this device or everywhere',
    who: 'anyone',
    body: SignOut,
    answer: SessionView,
  },
  devices: {
    method: 'get',
    path: '/api/v1/devices',
    summary: 'Devices somebody is signed in on: one’s own, for a manager everybody’s',
    who: 'crew',
    answer: DevicesView,
  },
  endDevice: {
    method: 'post',
    path: '/api/v1/devices/:id/end',
    summary: 'Signs a device out: one’s own, for a manager anybody’s',
    who: 'crew',
    params: z.object({
      id: z.string().max(64, { error: () => $localize`is too long for a device` }),
    }),
    answer: DevicesView,
  },
  firstStart: {
    method: 'post',
    path: '/api/v1/first-start',
    summary: 'Makes the manager of a shop nobody works in yet, by the code the server printed',
    who: 'anyone',
    body: FirstStart,
    answer: SessionView,
  },
  calendarAddress: {
    method: 'get',
    path: '/api/v1/calendar-address',
    summary: 'Since when the shop’s calendar may be subscribed to',
    who: 'manager',
    answer: CalendarAddressView,
  },
  changeCalendarAddress: {
    method: 'post',
    path: '/api/v1/calendar-address',
    summary:
      'Makes the address calendars subscribe to, in place of the one before, or takes it away',
    who: 'manager',
    body: CalendarAddressAct,
    answer: CalendarAddress,
  },
  machines: {
    method: 'get',
    path: '/api/v1/machines',
    summary: 'Machines that may use the API by a token of their own',
    who: 'manager',
    answer: MachinesView,
  },
  makeMachine: {
    method: 'post',
    path: '/api/v1/machines',
    summary: 'Makes a token for a machine; it is told once',
    who: 'manager',
    body: MakeMachine,
    answer: MadeMachine,
  },
  endMachine: {
    method: 'post',
    path: '/api/v1/machines/:id/end',
    summary: 'Ends a machine’s token',
    who: 'manager',
    params: byId,
    answer: MachinesView,
  },
  joinLink: {
    method: 'post',
    path: '/api/v1/join-links',
    summary: 'Makes a link that signs a crew’s phone in, once, within a quarter of an hour',
    who: 'manager',
    body: JoinLinkAct,
    answer: JoinLink,
  },
  join: {
    method: 'post',
    path: '/api/v1/join',
    summary: 'Signs a phone in by such a link',
    who: 'anyone',
    body: Join,
    answer: SessionView,
  },
  health: {
    method: 'get',
    path: '/api/v1/health',
    summary: 'Is the server up, and whose shop is it',
    who: 'anyone',
    answer: Health,
  },
  ready: {
    method: 'get',
    path: '/api/v1/ready',
    summary: 'Does the server answer from its database',
    who: 'anyone',
    answer: z.object({ ready: z.literal(true) }),
  },
  bench: {
    method: 'get',
    path: '/api/v1/bench',
    summary: 'What waits, what is in hand, what is on hold',
    who: 'technician',
    answer: BenchView,
  },
  ahead: {
    method: 'get',
    path: '/api/v1/ahead',
    summary: 'Blades to buy and sets that break in the coming months',
    who: 'technician',
    answer: AheadView,
  },
  season: {
    method: 'get',
    path: '/api/v1/season',
    summary: 'The shop as a season simulation starts from it, each figure with its source',
    who: 'technician',
    answer: SeasonView,
  },
  schoolCosts: {
    method: 'get',
    path: '/api/v1/school-costs',
    summary: 'What an hour mown costs under each school, on the shop’s own history',
    who: 'technician',
    answer: SchoolCostsView,
  },
  batch: {
    method: 'get',
    path: '/api/v1/batch',
    summary: 'The open batch in working order, with its change-overs and sets',
    who: 'technician',
    answer: BatchView,
  },
  shift: {
    method: 'get',
    path: '/api/v1/shift',
    summary: 'What the next bench day should grind, in set-up order with its minutes',
    who: 'technician',
    answer: ShiftView,
  },
  people: {
    method: 'get',
    path: '/api/v1/people',
    summary: 'The people of the shop',
    who: 'anyone',
    query: PageQuery,
    answer: z.array(Person),
  },
  ...FLEET_ROUTES,
  rack: {
    method: 'get',
    path: '/api/v1/rack',
    summary: 'Where every blade is, and the sets that stand ready for each mower',
    who: 'technician',
    answer: RackView,
  },
  shop: {
    method: 'get',
    path: '/api/v1/shop',
    summary: 'The shop: its schools, and its grinders with what is on them',
    who: 'technician',
    answer: ShopView,
  },
  record: {
    method: 'get',
    path: '/api/v1/record',
    summary: 'How the record stands: its newest entry with its hash, and the newest backup',
    who: 'technician',
    answer: RecordView,
  },
  specs: {
    method: 'get',
    path: '/api/v1/specs',
    summary: 'Blade specs, newest revision each',
    who: 'technician',
    query: PageQuery,
    answer: z.array(SpecRevision),
  },
  limitPreview: {
    method: 'post',
    path: '/api/v1/specs/:id/preview',
    summary: 'Which blades in use other limits or sizes would retire, before they are kept',
    who: 'technician',
    params: byId,
    body: z.union([
      z.object({ limits: z.array(LimitShape).max(40) }),
      z.object({ figures: SpecFigures }),
    ]),
    answer: LimitPreview,
  },
  blades: {
    method: 'get',
    path: '/api/v1/blades',
    summary: 'Blades by mower, place, size or state',
    who: 'technician',
    query: BladeQuery,
    answer: BladeList,
  },
  register: {
    method: 'get',
    path: '/api/v1/register',
    summary: 'Every blade, found by any word its row shows, sorted, a page at a time',
    who: 'technician',
    query: RegisterQuery,
    answer: RegisterView,
  },
  livesLeft: {
    method: 'get',
    path: '/api/v1/register/lives',
    summary: 'Grinds left of some blades, and the limit that likely comes first',
    who: 'technician',
    query: LivesQuery,
    answer: LivesView,
  },
  blade: {
    method: 'get',
    path: '/api/v1/blades/:id',
    summary: 'One blade and its life',
    who: 'technician',
    params: byId,
    answer: BladeView,
  },
  code: {
    method: 'get',
    path: '/api/v1/codes/:text',
    summary: 'The blade behind a scanned or typed code',
    who: 'crew',
    params: z.object({
      text: z.string().max(60, { error: () => $localize`is too long for a code` }),
    }),
    answer: CodeAnswer,
  },
  cycle: {
    method: 'get',
    path: '/api/v1/cycles/:id',
    summary: 'One cycle as it stands',
    who: 'technician',
    params: byId,
    answer: CycleView,
  },
  plan: {
    method: 'get',
    path: '/api/v1/cycles/:id/plan',
    summary: 'What to grind on this blade, solved in a worker',
    who: 'technician',
    params: byId,
    answer: PlanView,
  },
  lease: {
    method: 'post',
    path: '/api/v1/cycles/:id/lease',
    summary: 'Says that a screen has the blade open, takes it over, or lets it go',
    who: 'technician',
    params: byId,
    body: LeaseAct,
    answer: LeaseView,
  },
  instruments: {
    method: 'get',
    path: '/api/v1/instruments',
    summary: 'The bench instruments; their samples come on the event stream as lines of text',
    who: 'technician',
    answer: InstrumentAnswer,
  },
  gaugeLines: {
    method: 'post',
    path: '/api/v1/instruments/:key/lines',
    summary: 'What a real gauge says, line by line, from its bridge',
    who: 'technician',
    params: z.object({ key: z.string().max(40) }),
    body: GaugeLines,
    answer: InstrumentAnswer,
  },
  instrument: {
    method: 'post',
    path: '/api/v1/instruments/:key',
    summary: 'What a hand does at a simulated instrument: put a blade on, take it off, unplug it',
    who: 'technician',
    params: z.object({ key: z.string().max(40) }),
    body: InstrumentAct,
    answer: InstrumentAnswer,
  },
  command: {
    method: 'post',
    path: '/api/v1/commands',
    summary:
      'Every write: one small command with an id made by the client; repeating it changes nothing',
    who: 'crew',
    body: Command,
    answer: AcceptedCommand,
  },
} as const satisfies Record<string, Route>;
export type RouteName = keyof typeof ROUTES;

/** A route's path with its parameters filled in. */
export function pathOf(name: RouteName, params: Record<string, string> = {}): string {
  return ROUTES[name].path.replace(/:(\w+)/g, (_, key: string) =>
    encodeURIComponent(params[key] ?? ''),
  );
}
