import * as z from 'zod';
import { sessionSchema } from './schema';

/** The published JSON Schema of the session file, as text. */
export function jsonSchemaText(): string {
  const schema = z.toJSONSchema(sessionSchema, { io: 'input', target: 'draft-2020-12' });
  return `${JSON.stringify({ title: 'Rotunda session file, version 2', ...schema }, null, 2)}\n`;
}
