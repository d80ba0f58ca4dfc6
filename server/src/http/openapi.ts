import { Problem, ROUTES, type Route } from '@tally-stone/contract';
import { z } from 'zod';

/** A schema as OpenAPI 3.1 wants it: plain JSON Schema 2020-12. */
const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): unknown => {
  const json: Record<string, unknown> = {
    ...z.toJSONSchema(schema, { io, unrepresentable: 'any' }),
  };
  delete json['$schema'];
  return json;
};

const problem = {
  description: 'Problem details (RFC 9457) naming the field and what to do',
  content: { 'application/problem+json': { schema: schemaOf(Problem, 'output') } },
};

function parameters(route: Route): unknown[] {
  const from = (place: 'path' | 'query', schema?: z.ZodObject): unknown[] =>
    Object.entries(schema?.shape ?? {}).map(([name, shape]) => ({
      name,
      in: place,
      required: place === 'path' || !(shape as z.ZodType).safeParse(undefined).success,
      schema: schemaOf(shape as z.ZodType, 'input'),
    }));
  return [...from('path', route.params), ...from('query', route.query)];
}

/** The API's description, OpenAPI 3.1, written from the schemas that parse it. */
export function openApi(): object {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [name, entry] of Object.entries(ROUTES)) {
    const route: Route = entry;
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = {
      ...paths[path],
      [route.method]: {
        operationId: name,
        summary: route.summary,
        'x-who': route.who,
        parameters: parameters(route),
        ...(route.body
          ? {
              requestBody: {
                required: true,
                content: { 'application/json': { schema: schemaOf(route.body, 'input') } },
              },
            }
          : {}),
        responses: {
          200: {
            description: 'Done',
            content: { 'application/json': { schema: schemaOf(route.answer, 'output') } },
          },
          default: problem,
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tally Stone',
      version: '0.2.0',
      description:
        'Blades, their sharpening cycles and what they are judged by. Lengths mm, masses g, unbalance g·mm, angles degrees, times UTC.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    paths,
  };
}
