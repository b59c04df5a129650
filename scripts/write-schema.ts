import { writeFileSync } from 'node:fs';
import { jsonSchemaText } from '../core/session/json-schema';

writeFileSync(new URL('../docs/session.schema.json', import.meta.url), jsonSchemaText());
