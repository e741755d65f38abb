/** Writes the types of a client for the HTTP API from its own description: the tests speak to it by nothing else. */
import { writeFileSync } from 'node:fs';
import openapiTS, { astToString, type OpenAPI3 } from 'openapi-typescript';
import { openApiDocument } from '../src/server/api/openapi';

const ast = await openapiTS(openApiDocument() as unknown as OpenAPI3);
writeFileSync('test/api-client.d.ts', `/** Made by npm run api:client from the API’s description. */\n${astToString(ast)}`);
