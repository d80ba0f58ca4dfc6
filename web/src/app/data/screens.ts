/** The screens that lie at hand everywhere, each with what else belongs to it, by the first part of the address. */
export const SCREENS: readonly {
  readonly link: string;
  readonly words: string;
  readonly holds: readonly string[];
}[] = [
  { link: '/', words: $localize`Bench`, holds: ['', 'run', 'new-blades', 'intake'] },
  { link: '/batch', words: $localize`Batch`, holds: ['batch'] },
  { link: '/rack', words: $localize`Rack`, holds: ['rack'] },
  { link: '/mowers', words: $localize`Mowers`, holds: ['mowers', 'mower', 'crew'] },
  { link: '/blades', words: $localize`Blades`, holds: ['blades', 'blade'] },
  { link: '/ahead', words: $localize`Ahead`, holds: ['ahead'] },
  { link: '/season', words: $localize`Season`, holds: ['season'] },
  { link: '/shop', words: $localize`Shop`, holds: ['shop', 'spec'] },
];

/**
 * What the screen at an address is called.
 * @example screenAt('/mower/7?of=hours') // 'Mowers'
 */
export const screenAt = (url: string): string => {
  const [, first = ''] = url.split(/[/?#]/);
  return SCREENS.find(({ holds }) => holds.includes(first))?.words ?? '';
};
