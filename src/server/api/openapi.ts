import { z } from 'zod';
import { OPERATIONS, problemAnswer, type Operation } from './operations';

type Json = Record<string, unknown>;

/** What a schema takes or gives as JSON Schema; refinements that JSON Schema cannot say are the server's to refuse. */
function schemaOf(schema: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as Json & { $schema?: string };
  return rest;
}

const params = (op: Operation): Json[] => [
  ...[...op.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string', format: 'uuid' },
  })),
  ...Object.entries(op.query?.shape ?? {}).map(([name, schema]) => ({
    name,
    in: 'query',
    required: !(schema as z.ZodType).safeParse(undefined).success,
    schema: schemaOf(schema as z.ZodType, 'input'),
  })),
];

function operation(op: Operation): Json {
  const problem = (description: string): Json => ({
    description,
    content: { 'application/json': { schema: schemaOf(problemAnswer, 'output') } },
  });
  return {
    operationId: op.id,
    summary: op.summary,
    ...(op.writes && { security: [{ key: [] }] }),
    parameters: params(op),
    ...(op.body && {
      requestBody: {
        required: true,
        content:
          op.body === 'file'
            ? { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } }
            : { 'application/json': { schema: schemaOf(op.body, 'input') } },
      },
    }),
    responses: {
      [op.status]: {
        description: 'done',
        content: {
          'application/json': { schema: schemaOf(op.answer, 'output') },
          ...(op.csv && { 'text/csv': { schema: { type: 'string' } } }),
        },
      },
      ...(op.writes && { 401: problem('no key, or one that opens nothing') }),
      404: problem('there is no such thing (any more)'),
      422: problem('the request is not what it should be; the message says where'),
    },
  };
}

/** The API's description, made from the schemas its routes use. OpenAPI 3.1. */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = {};
  for (const op of OPERATIONS) paths[op.path] = { ...paths[op.path], [op.method]: operation(op) };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Vanner',
      version: '1',
      description:
        'Jobs, units, solving, runs and comparisons of one shop. SI throughout; names carry their units. Reading needs no key, writing does.',
    },
    servers: [{ url: '/api/v1' }],
    components: { securitySchemes: { key: { type: 'http', scheme: 'bearer' } } },
    paths,
  };
}
