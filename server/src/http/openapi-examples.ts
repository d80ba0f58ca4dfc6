import { sample } from 'openapi-sampler';

/** A value for a text or a number, by what its property is called; none where the schema tells enough itself. */
const BY_NAME: Readonly<Record<string, unknown>> = {
  code: 'AC4KP',
  codes: 'AC4KP',
  text: '57.25',
  name: 'Kestrel',
  specName: 'High-lift 533',
  mowerName: 'Kestrel',
  personName: 'Ines Marlow',
  signedBy: 'Ines Marlow',
  by: 'Ines Marlow',
  site: 'North round',
  place: 'Heap',
  position: 'left',
  stationKey: 'middle',
  currency: 'EUR',
  timeZone: 'Europe/Berlin',
  words: 'Width at the middle is 0.4 mm above its limit',
  pin: '4821',
  value: 51,
  energy: 'petrol',
  instrument: 'caliper',
  expectedRevision: 3,
  torn: 1,
  clean: 21,
  edgeLengthMm: 100,
  sourceText: 'mower manual, wear table',
};

/** Figures by the unit their names end with. */
const BY_UNIT: readonly (readonly [ending: RegExp, value: number])[] = [
  [/Gmm$/, 420],
  [/lengthMm$/i, 533],
  [/widthMm$/i, 57.2],
  [/thicknessMm$/i, 6.35],
  [/Mm$/, 24.5],
  [/massG$/i, 1542.5],
  [/G$/, 4.2],
  [/Deg$/, 30],
  [/Rpm$/, 2900],
  [/H$/, 412.5],
  [/(^u|U)$/, 0.05],
];
/** Ids are UUIDv7, and instants are of one bench day. */
const ID = '0198c5a2-7d40-7c3e-9f11-2b6a54d0e8aa';
const INSTANT = '2026-04-01T08:30:00Z';
const DAY = '2026-04-01';
const BY_FORMAT: Readonly<Record<string, unknown>> = { uuid: ID, 'date-time': INSTANT, date: DAY };

type Json = Record<string, unknown>;

const holds = (
  { minimum, maximum, type, minLength = 0, maxLength = Infinity, pattern }: Json,
  value: unknown,
): boolean => {
  if (typeof value === 'number')
    return (
      (type === 'number' || (type === 'integer' && Number.isInteger(value))) &&
      value >= Number(minimum ?? -Infinity) &&
      value <= Number(maximum ?? Infinity)
    );
  return (
    typeof value === 'string' &&
    type === 'string' &&
    value.length >= Number(minLength) &&
    value.length <= Number(maxLength) &&
    (typeof pattern !== 'string' || new RegExp(pattern).test(value))
  );
};

/** An example for a text or a number of that name, where one is known that its schema allows. */
export function exampleOf(name: string, schema: Json): unknown {
  if (schema['enum'] !== undefined || schema['const'] !== undefined) return undefined;
  const format = BY_FORMAT[String(schema['format'])];
  if (format !== undefined) return format;
  const found = Object.hasOwn(BY_NAME, name)
    ? BY_NAME[name]
    : BY_UNIT.find(([ending]) => ending.test(name))?.[1];
  return holds(schema, found) ? found : undefined;
}

/** A whole value of a schema, made of the examples in it. */
export const sampleOf = (schema: unknown, description: Json): unknown =>
  sample(schema as Json, { quiet: true }, description);
