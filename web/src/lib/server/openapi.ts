import { z } from 'zod';

import { PATHS, SCHEMAS, type Operation } from './contract.ts';

/** The description of the interface (OpenAPI 3.1), made from its table. */
export function openApi(origin: string) {
  const registry = z.registry<{ id: string }>();
  // Registered apart, so that the shared schemas carry no name of their own.
  for (const [id, schema] of Object.entries(SCHEMAS)) registry.add(schema, { id });
  const { schemas } = z.toJSONSchema(registry, {
    io: 'input',
    unrepresentable: 'any',
    uri: (id) => `#/components/schemas/${id}`
  });
  const components = Object.fromEntries(
    Object.entries(schemas).map(([id, { $id: _id, $schema: _dialect, ...schema }]) => [id, schema])
  );
  return {
    openapi: '3.1.0',
    info: { title: 'Baumkin', version: '1', description: 'The same interface that the application itself uses.' },
    servers: [{ url: `${origin}/api/v1` }],
    security: [{ key: [] }],
    paths: Object.fromEntries(
      Object.entries(PATHS).map(([path, operations]) => [
        path,
        {
          ...parameters(path),
          ...Object.fromEntries(
            Object.entries<Operation>(operations).map(([method, operation]) => [
              method,
              described(path, method, operation)
            ])
          )
        }
      ])
    ),
    components: { schemas: components, securitySchemes: { key: { type: 'http', scheme: 'bearer' } } }
  };
}

const NUMBERS = ['number', 'part'];

function parameters(path: string) {
  const names = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]!);
  if (names.length === 0) return {};
  return {
    parameters: names.map((name) => ({
      name,
      in: 'path',
      required: true,
      schema: NUMBERS.includes(name)
        ? { type: 'integer', minimum: 0 }
        : { type: 'string', ...(name === 'file' ? {} : { format: 'uuid' }) }
    }))
  };
}

function described(path: string, method: string, { says, takes, asks, gives, file, needs, status = 200 }: Operation) {
  const json = (name: string) => ({ 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } });
  const content = gives
    ? { content: json(gives) }
    : file
      ? { content: Object.fromEntries(file.map((type) => [type, { schema: { type: 'string' } }])) }
      : {};
  return {
    operationId: `${method}${path.replace(/[/{}]+(\w)/g, (_, letter: string) => letter.toUpperCase()).replace(/\W/g, '')}`,
    summary: says,
    ...(needs ? { description: `Needs the role of ${needs} at least.` } : {}),
    ...(asks
      ? {
          parameters: Object.entries(asks).map(([name, description]) => ({
            name,
            in: 'query',
            required: true,
            description,
            schema: { type: 'string' }
          }))
        }
      : {}),
    ...(takes ? { requestBody: { required: true, content: json(takes) } } : {}),
    responses: {
      [status]: { description: status === 204 ? 'done' : 'the answer', ...content },
      default: { description: 'what went wrong, in a sentence', content: json('Problem') }
    }
  };
}
