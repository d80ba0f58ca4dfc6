/**
 * What short codes of the record are called: they are stored in English and said in the language of whoever reads.
 * What is no code here, a name that somebody typed, is said as it is.
 */
const NAMES: ReadonlyMap<string, () => string> = new Map(
  Object.entries({
    right: () => $localize`right`,
    left: () => $localize`left`,
    flat: () => $localize`flat`,
    rounded: () => $localize`rounded`,
    round: () => $localize`round`,
    star: () => $localize`star`,
    oval: () => $localize`oval`,
    square: () => $localize`square`,
    'low-lift': () => $localize`low-lift`,
    'medium-lift': () => $localize`medium-lift`,
    'high-lift': () => $localize`high-lift`,
    mulching: () => $localize`mulching`,
    manager: () => $localize`manager`,
    technician: () => $localize`technician`,
    crew: () => $localize`crew`,
    petrol: () => $localize`petrol`,
    diesel: () => $localize`diesel`,
    battery: () => $localize`battery`,
    belt: () => $localize`belt`,
    wheel: () => $localize`wheel`,
    'flap-disc': () => $localize`flap disc`,
    file: () => $localize`file`,
    'drill-stone': () => $localize`stone in a drill`,
    tip: () => $localize`tip`,
    middle: () => $localize`middle`,
    root: () => $localize`root`,
    soft: () => $localize`soft`,
    mixed: () => $localize`mixed`,
    coarse: () => $localize`coarse`,
    loam: () => $localize`loam`,
    sandy: () => $localize`sandy`,
    stony: () => $localize`stony`,
    razor: () => $localize`razor`,
    working: () => $localize`working`,
    blunt: () => $localize`blunt`,
    grinds: () => $localize`grinds`,
    blades: () => $localize`blades`,
    days: () => $localize`days`,
    tips: () => $localize`tips`,
    years: () => $localize`years`,
    cycles: () => $localize`cycles`,
    depth: () => $localize`depth`,
    length: () => $localize`length`,
    mass: () => $localize`mass`,
    angle: () => $localize`angle`,
    torque: () => $localize`torque`,
    unbalance: () => $localize`unbalance`,
    light: () => $localize`light`,
    heavy: () => $localize`heavy`,
  }),
);

/**
 * A code in words.
 * @example named('flap-disc') // 'flap disc'
 */
export const named = (code: string): string => NAMES.get(code)?.() ?? code;

/** Places the app itself gives a blade, as they are stored. */
export const PLACES = {
  bench: 'Bench',
  rack: 'Rack',
  hook: 'Hold hook',
  scrap: 'Scrap bin',
  heap: 'Waiting heap',
  shelf: 'New on the shelf',
} as const;

const PLACE_NAMES: ReadonlyMap<string, () => string> = new Map(
  Object.entries({
    [PLACES.bench]: () => $localize`Bench`,
    [PLACES.rack]: () => $localize`Rack`,
    [PLACES.hook]: () => $localize`Hold hook`,
    [PLACES.scrap]: () => $localize`Scrap bin`,
    [PLACES.heap]: () => $localize`Waiting heap`,
    [PLACES.shelf]: () => $localize`New on the shelf`,
  }),
);

/**
 * The peg of a name, as a blade's place is stored.
 * @example pegPlace('7') // 'Peg 7'
 */
export const pegPlace = (name: string): string => `Peg ${name}`;
/**
 * Beside a mower, as a blade's place is stored.
 * @example heapPlace('Kestrel') // 'Heap by Kestrel'
 */
export const heapPlace = (mower: string): string => `Heap by ${mower}`;

/** Places with a name in them: how they are stored, how they are said, and how they come to be stored. */
const PATTERNS: readonly (readonly [RegExp, (what: string) => string, (what: string) => string])[] =
  [
    [/^Peg (.+)$/, (what) => $localize`Peg ${what}`, pegPlace],
    [/^Heap by (.+)$/, (what) => $localize`Heap by ${what}`, heapPlace],
  ];

/**
 * Places of the app's own whose words, as they are said here, hold what is looked for: as they are stored, and what a
 * stored place begins with where something follows it.
 * @example placesWith('hook') // { places: ['Hold hook'], beginnings: [] }
 */
export function placesWith(word: string): { places: string[]; beginnings: string[] } {
  const has = (said: string): boolean => said.toLowerCase().includes(word.toLowerCase());
  return {
    places: [...PLACE_NAMES].filter(([, say]) => has(say())).map(([place]) => place),
    beginnings: PATTERNS.filter(([, say]) => has(say(''))).map(([, , stored]) => stored('')),
  };
}

/**
 * Where a blade is, said: places of the app's own in the reader's language, what somebody typed as it is.
 * @example placeSaid('Peg 7') // 'Peg 7'
 */
export function placeSaid(place: string): string {
  for (const [pattern, say] of PATTERNS) {
    const found = pattern.exec(place);
    if (found?.[1]) return say(found[1]);
  }
  return PLACE_NAMES.get(place)?.() ?? place;
}
