/**
 * Where each route of the API is. Without its schemas: what only asks for a path must not carry them.
 */
export const PATHS = {
  session: '/api/v1/session',
  signIn: '/api/v1/sign-in',
  signOut: '/api/v1/sign-out',
  devices: '/api/v1/devices',
  endDevice: '/api/v1/devices/:id/end',
  firstStart: '/api/v1/first-start',
  calendarAddress: '/api/v1/calendar-address',
  changeCalendarAddress: '/api/v1/calendar-address',
  machines: '/api/v1/machines',
  makeMachine: '/api/v1/machines',
  endMachine: '/api/v1/machines/:id/end',
  joinLink: '/api/v1/join-links',
  join: '/api/v1/join',
  health: '/api/v1/health',
  ready: '/api/v1/ready',
  bench: '/api/v1/bench',
  ahead: '/api/v1/ahead',
  season: '/api/v1/season',
  schoolCosts: '/api/v1/school-costs',
  batch: '/api/v1/batch',
  shift: '/api/v1/shift',
  people: '/api/v1/people',
  rack: '/api/v1/rack',
  shop: '/api/v1/shop',
  record: '/api/v1/record',
  specs: '/api/v1/specs',
  limitPreview: '/api/v1/specs/:id/preview',
  blades: '/api/v1/blades',
  register: '/api/v1/register',
  livesLeft: '/api/v1/register/lives',
  blade: '/api/v1/blades/:id',
  code: '/api/v1/codes/:text',
  cycle: '/api/v1/cycles/:id',
  plan: '/api/v1/cycles/:id/plan',
  lease: '/api/v1/cycles/:id/lease',
  instruments: '/api/v1/instruments',
  gaugeLines: '/api/v1/instruments/:key/lines',
  instrument: '/api/v1/instruments/:key',
  command: '/api/v1/commands',
  mowers: '/api/v1/mowers',
  fleet: '/api/v1/fleet',
  grass: '/api/v1/mowers/:id/grass',
  edgesByGrass: '/api/v1/grass',
  offer: '/api/v1/decks/:id/offer',
  replacement: '/api/v1/decks/:id/replacement',
} as const;
export type RouteName = keyof typeof PATHS;

/** A route's path with its parameters filled in. */
export function pathOf(name: RouteName, params: Record<string, string> = {}): string {
  return PATHS[name].replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
}
