import {
  FILE_ROUTES,
  PROBLEMS,
  Problem,
  ROUTES,
  type FileRoute,
  type Route,
  type Who,
} from '@tally-stone/contract';
import * as contract from '@tally-stone/contract';
import { z } from 'zod';
import { exampleOf, sampleOf } from './openapi-examples.js';
import { STATUS } from './problem.js';

/** Every schema the contract names, by its name: a shape is described once and pointed at. */
const named = z.registry<{ id: string }>();
for (const [id, schema] of Object.entries(contract)) {
  if (schema instanceof z.ZodType && !named.has(schema)) named.add(schema, { id });
}

/** Commands are told apart by their type, and go by it. */
for (const option of contract.Command.options) {
  const [type = ''] = option.shape.type.values;
  const id = type.replace(/(^|-)(\w)/g, (_, __, letter: string) => letter.toUpperCase());
  if (!named.has(option)) named.add(option, { id });
}

type Json = Record<string, unknown>;
type Io = 'input' | 'output';

/** What is sent may leave out what has a default, and so is another shape than what comes back. */
const SENT = 'Sent';

/** Words of a path through JSON Schema that name no property. */
const STEPS = new Set<unknown>([
  'properties',
  'items',
  'anyOf',
  'oneOf',
  'allOf',
  'additionalProperties',
]);

/** Collects shapes while paths are written, and points at them. */
class Shapes {
  readonly schemas: Record<string, unknown> = {};

  /** A schema as OpenAPI 3.1 wants it: plain JSON Schema 2020-12, with pointers to what has a name. */
  of(schema: z.ZodType, io: Io, called = ''): unknown {
    const json: Json = {
      ...z.toJSONSchema(schema, {
        io,
        unrepresentable: 'any',
        metadata: named,
        override: ({ zodSchema, jsonSchema, path }) => {
          const property = path.findLast((each) => typeof each === 'string' && !STEPS.has(each));
          const example = exampleOf(String(property ?? called), jsonSchema);
          if (example !== undefined) jsonSchema.examples = [example];
          const { discriminator } = zodSchema._zod.def as { discriminator?: string };
          const options = (zodSchema._zod.def as { options?: readonly z.ZodType[] }).options ?? [];
          // A discriminator picks among shapes that have names.
          if (discriminator !== undefined && options.every((each) => named.has(each)))
            jsonSchema.discriminator = { propertyName: discriminator };
          // A record of known keys has them as its properties; one of ids may be empty.
          const { required = [], properties, additionalProperties } = jsonSchema;
          if (required.length > 0 && !properties && typeof additionalProperties === 'object') {
            jsonSchema.properties = Object.fromEntries(
              required.map((key) => [key, additionalProperties]),
            );
            jsonSchema.additionalProperties = false;
          } else if (jsonSchema.propertyNames) jsonSchema.examples = [{}];
        },
      }),
    };
    const { $defs = {}, id: own } = json;
    for (const [name, shape] of Object.entries($defs as Record<string, Json>))
      this.keep(name, io, shape);
    const shape = this.pointed(json, io);
    if (typeof own !== 'string') return shape;
    this.schemas[this.nameOf(own, io)] = shape;
    return { $ref: `#/components/schemas/${this.nameOf(own, io)}` };
  }

  private keep(name: string, io: Io, shape: Json): void {
    this.schemas[this.nameOf(name, io)] ??= this.pointed(shape, io);
  }

  private nameOf = (name: string, io: Io): string => (io === 'input' ? `${name}${SENT}` : name);

  /** Pointers into the schema itself become pointers into the components; what only names it is left out. */
  private pointed(shape: Json, io: Io): unknown {
    const bare = { ...shape };
    for (const key of ['$schema', '$defs', 'id']) Reflect.deleteProperty(bare, key);
    return JSON.parse(
      JSON.stringify(bare).replace(
        /"#\/\$defs\/([^"]+)"/g,
        (_, name: string) => `"#/components/schemas/${this.nameOf(name, io)}"`,
      ),
    );
  }
}

/** What an address is about, by the word after the version. */
const TAGS: Readonly<Record<string, string>> = {
  Bench: 'The work in hand: cycles, plans, leases, instruments',
  Blades: 'Blades, their lives, codes and photos',
  Fleet: 'Mowers, decks, sets, when they are due',
  Shop: 'How the shop works, its record, its lists',
  People: 'Who works here, sessions, devices',
  Server: 'Whether it is up, and what it can do',
};
const TAG_OF: Readonly<Record<string, keyof typeof TAGS>> = {
  bench: 'Bench',
  batch: 'Bench',
  shift: 'Bench',
  cycles: 'Bench',
  commands: 'Bench',
  instruments: 'Bench',
  blades: 'Blades',
  register: 'Blades',
  livesLeft: 'Blades',
  codes: 'Blades',
  photos: 'Blades',
  rack: 'Blades',
  specs: 'Blades',
  mowers: 'Fleet',
  fleet: 'Fleet',
  decks: 'Fleet',
  spindles: 'Fleet',
  ahead: 'Fleet',
  season: 'Fleet',
  'season.pdf': 'Fleet',
  'sets.pdf': 'Fleet',
  'calendar.ics': 'Fleet',
  shop: 'Shop',
  record: 'Shop',
  'school-costs': 'Shop',
  sheets: 'Shop',
  export: 'Shop',
  import: 'Shop',
};
const PEOPLE = /^\/api\/v1\/(session|sign|devices|first-start|join|people)/;
const tagOf = (path: string): string =>
  PEOPLE.test(path) ? 'People' : (TAG_OF[path.split('/')[3] ?? ''] ?? 'Server');

/** Which problems an address may answer with, by status. */
function problems({ who, writes, named }: { who: Who; writes: boolean; named: boolean }): Json {
  const statuses = [
    422,
    429,
    500,
    ...(who === 'anyone' ? [] : [401, 403]),
    ...(named ? [404] : []),
    ...(writes ? [400, 409, 413, 415, 507] : []),
  ];
  return Object.fromEntries(
    [...statuses.sort((a, b) => a - b).map(String), 'default'].map((status) => [
      status,
      { $ref: `#/components/responses/Problem${status === 'default' ? '' : status}` },
    ]),
  );
}

/** A problem's answers, each status with the kinds it stands for. */
function problemResponses(shapes: Shapes): Json {
  const content = {
    'application/problem+json': { schema: shapes.of(Problem, 'output') },
  };
  const kindsOf = (status: number): string[] =>
    Object.entries(STATUS)
      .filter(([, each]) => each === status)
      .map(([kind]) => PROBLEMS[kind as keyof typeof PROBLEMS]);
  return Object.fromEntries([
    // No address listed here answers that it takes another method.
    ...[...new Set(Object.values(STATUS))]
      .filter((status) => status !== 405)
      .map((status) => [
        `Problem${status}`,
        { description: `Problem details (RFC 9457): ${kindsOf(status).join(', ')}`, content },
      ]),
    [
      'Problem',
      { description: 'Problem details (RFC 9457) naming the field and what to do', content },
    ],
  ]) as Json;
}

const secured = (who: Who): Json => (who === 'anyone' ? { security: [] } : {});

/** What every address says of itself. */
const toldOf = (name: string, { summary, path, who }: Route | FileRoute): Json => ({
  operationId: name,
  summary,
  tags: [tagOf(path)],
  'x-who': who,
  ...secured(who),
});

function parameters(route: Route, shapes: Shapes): unknown[] {
  const from = (place: 'path' | 'query', schema?: z.ZodObject): unknown[] =>
    Object.entries(schema?.shape ?? {}).map(([name, shape]) => ({
      name,
      in: place,
      required: place === 'path' || !(shape as z.ZodType).safeParse(undefined).success,
      schema: shapes.of(shape as z.ZodType, 'input', name),
    }));
  return [...from('path', route.params), ...from('query', route.query)];
}

function operationOf(name: string, route: Route, shapes: Shapes): Json {
  const writes = route.method === 'post';
  return {
    ...toldOf(name, route),
    parameters: parameters(route, shapes),
    ...(route.body && {
      requestBody: {
        required: true,
        content: { [JSON_TYPE]: { schema: shapes.of(route.body, 'input') } },
      },
    }),
    responses: {
      200: {
        description: 'Done',
        content: { [JSON_TYPE]: { schema: shapes.of(route.answer, 'output') } },
      },
      ...problems({ who: route.who, writes, named: route.params !== undefined }),
    },
  };
}

/** An address that takes or gives files. */
function fileOperationOf(name: string, route: FileRoute): Json {
  const binary = { type: 'string', format: 'binary' };
  return {
    ...toldOf(name, route),
    parameters: [...route.path.matchAll(/:(\w+)/g)].map(([, each]) => ({
      name: each,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    })),
    ...(route.takes && {
      requestBody: { required: true, content: { [route.takes]: { schema: binary } } },
    }),
    responses: {
      200: {
        description: 'Done',
        content: Object.fromEntries(
          route.gives.map((type) => [type, { schema: type.endsWith('json') ? {} : binary }]),
        ),
      },
      ...problems({
        who: route.who,
        writes: route.method === 'post',
        named: route.path.includes(':'),
      }),
    },
  };
}

const JSON_TYPE = 'application/json';

interface Content {
  readonly schema: Json;
  example?: unknown;
  examples?: Record<string, { readonly value: unknown }>;
}

/** Puts an example beside every body that is JSON: one of each kind where a discriminator picks among several. */
function withExamples<Description extends Json & { paths: Record<string, Json> }>(
  description: Description,
): Description {
  const bodies = Object.values(description.paths)
    .flatMap((path) => Object.values(path) as Json[])
    .flatMap(({ requestBody, responses }) => [requestBody, (responses as Json)['200']])
    .flatMap((body) => {
      const json = (body as { content?: Record<string, Content> } | undefined)?.content?.[
        JSON_TYPE
      ];
      return json ? [json] : [];
    });
  const schemas = (description['components'] as { schemas: Record<string, Json> }).schemas;
  for (const json of bodies) {
    if (Object.keys(json.schema).length === 0) continue;
    const of = String(json.schema['$ref'] ?? '').replace('#/components/schemas/', '');
    const { oneOf, discriminator } = schemas[of] ?? {};
    if (!discriminator) json.example = sampleOf(json.schema, description);
    else
      json.examples = Object.fromEntries(
        (oneOf as { $ref: string }[]).map((each) => [
          each.$ref.replace(/^.*\/|Sent$/g, ''),
          { value: sampleOf(each, description) },
        ]),
      );
  }
  return description;
}

/** The API's description, OpenAPI 3.1, written from the schemas that parse it. */
export function openApi(): object {
  const shapes = new Shapes();
  const paths: Record<string, Json> = {};
  const put = (route: Route | FileRoute, operation: Json): void => {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [route.method]: operation };
  };
  for (const [name, route] of Object.entries<Route>(ROUTES))
    put(route, operationOf(name, route, shapes));
  for (const [name, route] of Object.entries<FileRoute>(FILE_ROUTES))
    put(route, fileOperationOf(name, route));
  const responses = problemResponses(shapes);
  return withExamples({
    openapi: '3.1.0',
    info: {
      title: 'Tally Stone',
      version: '1.0.0',
      description:
        'Blades, their sharpening cycles and what they are judged by. Lengths mm, masses g, unbalance g·mm, angles degrees, times UTC. What stands here stays for all of version 1: fields are added, none is taken away or changes its meaning.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: '/', description: 'The shop’s own server' }],
    tags: Object.entries(TAGS).map(([name, description]) => ({ name, description })),
    security: [{ session: [] }, { machine: [] }],
    paths,
    components: {
      schemas: shapes.schemas,
      responses,
      securitySchemes: {
        session: {
          type: 'apiKey',
          in: 'cookie',
          name: 'tally-stone-session',
          description: 'Given by sign-in. On the server’s own machine nobody has to sign in.',
        },
        machine: {
          type: 'http',
          scheme: 'bearer',
          description:
            'A machine’s token, made by a manager under This shop: to read what a technician sees, to tell meter hours, or to pass on what gauges say.',
        },
      },
    },
  });
}
