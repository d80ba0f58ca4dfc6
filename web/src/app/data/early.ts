import { pathOf, type RouteName } from '@tally-stone/contract';

interface Answer {
  readonly body: unknown;
  readonly headers: Headers;
}
export interface Early {
  readonly coming: Promise<Answer | undefined>;
  /** Once it has come. */
  came?: Answer | undefined;
}

const EVERY_SCREEN: readonly RouteName[] = ['people', 'session', 'health'];
/** The register as it opens. */
const REGISTER = `${pathOf('register')}?text=&sort=code&down=false&offset=0&limit=100`;
type Asks = (id: string) => readonly string[];
const asks =
  (...names: RouteName[]): Asks =>
  () =>
    names.map((name) => pathOf(name));
/** What each screen asks first, by its address. */
const SCREENS: readonly (readonly [RegExp, Asks])[] = [
  [/^\/$/, asks('bench')],
  [/^\/run\/([^/]+)$/, (id) => [pathOf('cycle', { id }), pathOf('instruments'), pathOf('batch')]],
  [/^\/blade\/([^/]+)$/, (id) => [pathOf('blade', { id }), pathOf('mowers')]],
  [/^\/blades$/, () => [REGISTER, pathOf('specs')]],
  [/^\/batch$/, asks('batch', 'shift')],
  [/^\/rack$/, asks('rack')],
  [/^\/(mowers|mower\/.+|crew)$/, asks('fleet')],
  [/^\/ahead$/, asks('ahead')],
  [/^\/season$/, asks('season')],
  [/^\/intake$/, asks('specs', 'fleet')],
  [/^\/(new-blades|spec\/.+|shop\/specs)$/, asks('specs')],
  [/^\/shop$/, asks('shop', 'instruments', 'specs', 'fleet', 'record')],
  [/^\/shop\/mowers$/, asks('mowers')],
  [/^\/shop\/(grinding|due|costs|this-shop|grinders|balancers|instruments)$/, asks('shop')],
];

/** The addresses a screen asks first; those of every screen alone where it is not known here. */
export function askedFirst(path: string): string[] {
  const own = SCREENS.flatMap(([screen, first]) => {
    const found = screen.exec(path);
    return found ? first(found[1] ?? '') : [];
  });
  return [...EVERY_SCREEN.map((name) => pathOf(name)), ...own];
}

/** After so long an answer is no longer taken for today's, ms. */
const LASTS_MS = 15_000;
const early = new Map<string, Early>();
let begunAt = 0;

/**
 * Asks for what the screen at this address will ask first, as soon as the page runs and beside the app itself: the answers are
 * there when the screen is drawn, which is then drawn once.
 */
export function askEarly(path: string): void {
  begunAt = performance.now();
  for (const address of askedFirst(path)) {
    // Asked for as JSON, as the app asks: what this device keeps for when the server is away is told by it.
    const coming = fetch(address, { headers: { accept: 'application/json' } })
      .then(async (response): Promise<Answer | undefined> =>
        response.ok ? { body: await response.json(), headers: response.headers } : undefined,
      )
      // It is asked for again, and what is wrong is said then.
      .catch(() => undefined);
    const one: Early = { coming };
    early.set(address, one);
    void coming.then((answer) => (one.came = answer));
  }
}

/** Something was changed: what was asked for before it tells of yesterday. */
export const dropEarly = (): void => early.clear();

/** What was asked for early at an address, once. */
export function takeEarly(address: string): Early | undefined {
  const found = early.get(address);
  early.delete(address);
  return performance.now() - begunAt < LASTS_MS ? found : undefined;
}
