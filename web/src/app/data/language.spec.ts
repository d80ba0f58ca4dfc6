import { followPerson, followShop, loadLanguage, pickLanguage, spokenHere } from './language';

describe('the language of this device', () => {
  const cookie = (): string => /(?:^|; )language=(\w+)/.exec(document.cookie)?.[1] ?? 'none';
  const cleared = (): void => {
    localStorage.removeItem('tally-stone.language-of-person');
    localStorage.removeItem('tally-stone.language');
    localStorage.removeItem('tally-stone.shop-language');
    document.cookie = 'language=; path=/; max-age=0';
  };
  beforeEach(cleared);
  afterEach(() => {
    cleared();
    document.documentElement.lang = 'en';
  });

  it('is the browser’s own where nobody picked one, and told to the server', async () => {
    await loadLanguage();
    expect(spokenHere()).toBe('en');
    expect(cookie()).toBe('en');
    expect(document.documentElement.lang).toBe('en');
  });

  it('is kept as picked, whatever the shop says', () => {
    pickLanguage('en');
    followShop('es');
    // It would have loaded the page anew otherwise, and this run with it.
    expect(localStorage.getItem('tally-stone.language')).toBe('en');
    expect(localStorage.getItem('tally-stone.shop-language')).toBe('es');
    followShop(undefined);
    expect(localStorage.getItem('tally-stone.shop-language')).toBeNull();
  });

  it('goes with whoever works here, before what was picked on the device', async () => {
    followPerson('en');
    localStorage.setItem('tally-stone.language', 'es');
    await loadLanguage();
    expect(spokenHere()).toBe('en');
    expect(cookie()).toBe('en');
  });

  it('is picked on the device where it could not be kept with the person', () => {
    localStorage.setItem('tally-stone.language-of-person', 'es');
    pickLanguage('en');
    expect(localStorage.getItem('tally-stone.language-of-person')).toBeNull();
    expect(localStorage.getItem('tally-stone.language')).toBe('en');
  });

  it('takes nothing for a language that is none', async () => {
    localStorage.setItem('tally-stone.language', '../es');
    await loadLanguage();
    expect(cookie()).toBe('en');
  });
});
