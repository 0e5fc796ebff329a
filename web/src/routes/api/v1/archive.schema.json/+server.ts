import { archiveSchema } from '@baumkin/core/exchange';
import { z } from 'zod';

/** The JSON Schema of a bush's archive, from the schema that it is read with. */
export function GET() {
  const schema = z.toJSONSchema(archiveSchema, { io: 'input', unrepresentable: 'any' });
  return new Response(JSON.stringify({ ...schema, title: 'Archive of a bush' }, null, 2), {
    headers: { 'content-type': 'application/schema+json' }
  });
}
