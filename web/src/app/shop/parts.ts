/** The parts of the shop's own pages, in their order: those that were decided, then what stands in the shop. */
export const SHOP_PARTS = [
  { path: 'people', name: 'People', decides: 'Who grinds, who signs, and who may undo.' },
  {
    path: 'grinding',
    name: 'How we grind',
    decides: 'How sharp, which nicks stay, and when a blade is hung.',
  },
  {
    path: 'due',
    name: 'When sets are due',
    decides: 'How long an edge lasts, and on which days the bench grinds.',
  },
  { path: 'costs', name: 'Costs', decides: 'What a plan, a nick and a dull hour cost.' },
  {
    path: 'this-shop',
    name: 'This shop',
    decides: 'Its name and time zone, and how its record is kept.',
  },
  {
    path: 'grinders',
    name: 'Grinders',
    decides: 'What takes the metal off, and how much a pass.',
  },
  { path: 'balancers', name: 'Balancers', decides: 'How small a heavy end can be seen.' },
  { path: 'instruments', name: 'Instruments', decides: 'What reads a mass, a width, an angle.' },
  { path: 'specs', name: 'Specs', decides: 'What a blade is when new, and where it ends.' },
  { path: 'mowers', name: 'Mowers', decides: 'Decks, spindles, and what fits on them.' },
] as const;
export type ShopPartPath = (typeof SHOP_PARTS)[number]['path'];
