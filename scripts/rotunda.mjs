import { pathToFileURL } from 'node:url';
import { COMMAND, ensureCommand } from './command.mjs';
import { ensurePackages } from './ensure.mjs';

ensurePackages();
await ensureCommand();
await import(pathToFileURL(COMMAND).href);
