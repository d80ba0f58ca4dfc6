import {
  BLADE_STATES,
  DAMAGE,
  DAMAGE_KINDS,
  GROUND_OUT,
  heapPlace,
  inWords,
  LIMIT_KINDS,
  LIMITS,
  named,
  pegPlace,
  placeSaid,
  PLACES,
  plannedReadings,
  QUANTITIES,
  QUANTITY_KEYS,
  RETIRE_REASON_KEYS,
  RETIRE_REASONS,
  SHOP_RETIRES_FOR,
  STRUCK,
  STRUCK_HOW,
  STRUCK_HOW_KEYS,
  STRUCK_KEYS,
  usualReadings,
} from '../index.js';

describe('the vocabulary', () => {
  it('gives each quantity a possible range that holds what a new blade has', () => {
    for (const key of QUANTITY_KEYS) {
      const { possible, whenNew, handlingU, changePerCycle } = QUANTITIES[key];
      expect(possible[0]).withContext(key).toBeLessThan(possible[1]);
      expect(whenNew?.value ?? possible[0])
        .withContext(key)
        .toBeGreaterThanOrEqual(possible[0]);
      expect(Math.min(handlingU, changePerCycle)).withContext(key).toBeGreaterThan(0);
    }
  });

  it('leads from every limit to a reason that a reading gives, and from none to the shop', () => {
    for (const kind of LIMIT_KINDS) {
      expect(RETIRE_REASONS[LIMITS[kind].retires].by).withContext(kind).toBe('reading');
    }
    expect(SHOP_RETIRES_FOR).toContain('shop-decision');
    expect(SHOP_RETIRES_FOR.map((key) => RETIRE_REASONS[key].by)).not.toContain('reading');
  });

  it('has no two words for one thing in a list that is picked from', () => {
    const lists = {
      quantities: QUANTITY_KEYS.map((key) => QUANTITIES[key].words),
      damage: DAMAGE_KINDS.map((key) => DAMAGE[key].words),
      limits: LIMIT_KINDS.map((key) => LIMITS[key].words),
      reasons: RETIRE_REASON_KEYS.map((key) => RETIRE_REASONS[key].words),
      states: Object.values(BLADE_STATES).map(({ heading }) => heading),
      struck: STRUCK_KEYS.map((key) => STRUCK[key]),
      'struck how': STRUCK_HOW_KEYS.map((key) => STRUCK_HOW[key]),
    };
    for (const [name, words] of Object.entries(lists)) {
      expect(new Set(words).size).withContext(name).toBe(words.length);
    }
  });

  it('takes out of the edge only what lies on it', () => {
    expect(GROUND_OUT).toEqual(['nick', 'chip', 'roll']);
    expect(GROUND_OUT.map((kind) => DAMAGE[kind].lies)).not.toContain('end');
  });

  it('plans a reading that a limit asks for, once, and leaves the others as they are', () => {
    const readings = usualReadings([]);
    const limit = {
      kind: 'wing-height',
      value: 15,
      unit: 'mm',
      source: 'shop',
      sourceText: '',
    } as const;
    expect(plannedReadings({ readings, limits: [] })).toEqual(readings);
    const planned = plannedReadings({ readings, limits: [limit] });
    expect(planned.slice(readings.length).map(({ quantity, end }) => [quantity, end])).toEqual([
      ['wing-height', 'A'],
      ['wing-height', 'B'],
    ]);
    expect(plannedReadings({ readings: planned, limits: [limit] })).toEqual(planned);
  });

  it('puts a finding into words without changing anything else of it', () => {
    const finding = {
      id: 'crack',
      reason: 'crack',
      severity: 'retire',
      where: 'near-tip',
    } as const;
    const { words, ...rest } = inWords(finding);
    expect(rest).toEqual(finding);
    expect(words).toBe('Crack near-tip: a cracked blade is never ground or fitted again');
  });
});

describe('places and codes in words', () => {
  it('says what was stored as it was stored, where the language is the one it is stored in', () => {
    for (const place of [...Object.values(PLACES), pegPlace('B'), heapPlace('Kestrel'), 'the shed'])
      expect(placeSaid(place)).toBe(place);
  });
  it('says a code it does not know as it is', () => {
    expect(named('flap-disc')).toBe('flap disc');
    expect(named('constructor')).toBe('constructor');
    expect(placeSaid('toString')).toBe('toString');
  });

  it('looks its words up when they are said, so that each reader hears their own language', () => {
    const said = /words|noun|heading|question|fitted|takenUp/i;
    for (const [name, table] of Object.entries({
      BLADE_STATES,
      DAMAGE,
      LIMITS,
      QUANTITIES,
      RETIRE_REASONS,
    })) {
      for (const [key, row] of Object.entries(table)) {
        for (const [property, { get, value }] of Object.entries(
          Object.getOwnPropertyDescriptors(row as object),
        )) {
          if (!said.test(property) || typeof (get ? get.call(row) : value) !== 'string') continue;
          expect(get).withContext(`${name}.${key}.${property}`).toBeDefined();
        }
      }
    }
  });
});
