import { config } from 'zod';

// The page's content security policy forbids generated code; this must run before any schema.
config({ jitless: true });
