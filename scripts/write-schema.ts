import { writeFileSync } from 'node:fs';
import { checksTable } from '../core/analysis/findings/checks-table';
import { jsonSchemaText } from '../core/session/json-schema';

writeFileSync(new URL('../docs/session.schema.json', import.meta.url), jsonSchemaText());
writeFileSync(new URL('../docs/checks.md', import.meta.url), checksTable());
