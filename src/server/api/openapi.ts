import { z } from 'zod';
import { DOUBT_WORDS } from '@/core/read/doubt-words';
import { COMPONENTS, OPERATIONS, PROBLEMS, type Operation } from './operations';

type Json = Record<string, unknown>;

/** What a schema takes or gives as JSON Schema; refinements that JSON Schema cannot say are the server's to refuse. */
function schemaOf(schema: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as Json & { $schema?: string };
  return rest;
}

const isBody = (name: string): boolean => name.endsWith('Body') || name === 'NewJob' || name === 'SolveRequest';

/** A schema by its name where it has one, else as it is. */
function named(schema: z.ZodType, io: 'input' | 'output'): Json {
  const name = COMPONENTS.find(([, s]) => s === schema)?.[0];
  return name ? { $ref: `#/components/schemas/${name}` } : schemaOf(schema, io);
}

const EXAMPLES: Readonly<Record<string, unknown>> = {
  createJob: { name: 'Larkspur estate', preset: 'straight six, 2.9 L' },
  solve: { jobId: '7d0c1f6e-4d7e-4f0a-9d5e-0a5a1c9b2e11', unitIds: [] },
};

const headerParameter = (name: string, description: string, required: boolean): Json => ({
  name,
  in: 'header',
  required,
  description,
  schema: { type: 'string' },
});

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
  ...(op.method === 'put' ? [headerParameter('If-Match', 'The version this changes, as the ETag of a read gave it: "3"', true)] : []),
  ...(op.writes ? [headerParameter('Idempotency-Key', 'A text of your own: sent again with it, the write is not done twice', false)] : []),
];

function contentOf(op: Operation): Json {
  if (op.answer === 'archive') return { 'application/zip': { schema: { type: 'string', format: 'binary' } } };
  if (op.answer === 'lines') return { 'application/x-ndjson': { schema: { type: 'string' } } };
  return { 'application/json': { schema: named(op.answer, 'output') }, ...(op.csv && { 'text/csv': { schema: { type: 'string' } } }) };
}

function operation(op: Operation): Json {
  const problem = (description: string): Json => ({
    description,
    content: { 'application/json': { schema: { $ref: '#/components/schemas/Problem' } } },
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
            : {
                'application/json': { schema: named(op.body, 'input'), ...(EXAMPLES[op.id] !== undefined && { example: EXAMPLES[op.id] }) },
              },
      },
    }),
    responses: {
      [op.status]: {
        description: 'done',
        ...(op.versioned && { headers: { ETag: { description: 'The version, in quotes', schema: { type: 'string' } } } }),
        content: contentOf(op),
      },
      ...(op.writes && {
        401: problem('no key, or one that opens nothing'),
        403: problem('the key may not do this'),
        409: problem('the first request with this Idempotency-Key is still being worked on; Retry-After says when to come again'),
      }),
      ...(op.method === 'put' && {
        412: problem('somebody else saved it in the meantime: `current` is theirs'),
        428: problem('If-Match is missing'),
      }),
      ...(op.body && {
        400: problem('the body is not what its type says'),
        413: problem('the body is larger than is taken'),
        415: problem('the body is of a type that is not taken'),
      }),
      404: problem('there is no such thing (any more)'),
      405: problem('another method; Allow names those that are'),
      406: problem('no type that Accept names'),
      422: problem('the request is not what it should be; the message says where'),
      429: problem('too many requests; Retry-After says when to come again'),
      503: problem('the database cannot be reached just now; Retry-After says when to come again'),
    },
  };
}

const list = (words: Readonly<Record<string, string>>): string =>
  Object.entries(words)
    .map(([code, text]) => `- \`${code}\`: ${text}`)
    .join('\n');

/** The API's description, made from the schemas its routes use. OpenAPI 3.1. */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = {};
  for (const op of OPERATIONS) paths[op.path] = { ...paths[op.path], [op.method]: operation(op) };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Vanner',
      version: '1',
      description: `Jobs, throttle bodies, solving, runs, strip days and comparisons of one shop. SI throughout; names carry their units. Reading needs no key, writing does; a key may only read, or be for one job. Bodies may be packed with gzip.\n\n## Problems\n\n${list(PROBLEMS)}\n\n## Doubts about a column\n\n${list(DOUBT_WORDS)}`,
    },
    servers: [{ url: '/api/v1' }],
    components: {
      securitySchemes: { key: { type: 'http', scheme: 'bearer' } },
      schemas: Object.fromEntries(COMPONENTS.map(([name, schema]) => [name, schemaOf(schema, isBody(name) ? 'input' : 'output')])),
    },
    paths,
  };
}
