/** The parts of the shop's own pages, in their order: those that were decided, then what stands in the shop. */
export const SHOP_PARTS = [
  {
    path: 'people',
    name: $localize`People`,
    decides: $localize`Who grinds, who signs, and who may undo.`,
  },
  {
    path: 'grinding',
    name: $localize`How we grind`,
    decides: $localize`How sharp, which nicks stay, and when a blade is hung.`,
  },
  {
    path: 'due',
    name: $localize`When sets are due`,
    decides: $localize`How long an edge lasts, and on which days the bench grinds.`,
  },
  {
    path: 'costs',
    name: $localize`Costs`,
    decides: $localize`What a plan, a nick and a dull hour cost.`,
  },
  {
    path: 'this-shop',
    name: $localize`This shop`,
    decides: $localize`Its name and time zone, and how its record is kept.`,
  },
  {
    path: 'grinders',
    name: $localize`Grinders`,
    decides: $localize`What takes the metal off, and how much a pass.`,
  },
  {
    path: 'balancers',
    name: $localize`Balancers`,
    decides: $localize`How small a heavy end can be seen.`,
  },
  {
    path: 'instruments',
    name: $localize`Instruments`,
    decides: $localize`What reads a mass, a width, an angle.`,
  },
  {
    path: 'specs',
    name: $localize`Specs`,
    decides: $localize`What a blade is when new, and where it ends.`,
  },
  {
    path: 'mowers',
    name: $localize`Mowers`,
    decides: $localize`Decks, spindles, and what fits on them.`,
  },
] as const;
export type ShopPartPath = (typeof SHOP_PARTS)[number]['path'];
