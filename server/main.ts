import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { buildServer } from './app';
import { addressOf, isLoopback, warningFor } from './hosts';
import { listenFrom } from './listen';

const HELP = `Options: --port N (default 4600)   --host ADDRESS (default 127.0.0.1: this machine only)`;

function options() {
  const { values } = parseArgs({
    options: {
      port: { type: 'string', default: process.env.PORT ?? '4600' },
      host: { type: 'string', default: '127.0.0.1' },
      demo: { type: 'boolean', default: false },
    },
  });
  const port = Number(values.port);
  if (!(Number.isInteger(port) && port >= 1 && port <= 65500)) {
    throw new Error(`--port: "${values.port}"; allowed: a whole number from 1 to 65500`);
  }
  return { port, host: values.host, demo: values.demo };
}

async function main(): Promise<void> {
  const { port: wanted, host, demo } = options();
  const folder = join(dirname(dirname(fileURLToPath(import.meta.url))), 'dist');
  if (!existsSync(join(folder, 'index.html'))) {
    throw new Error('the app is not built yet; run npm run demo');
  }
  const server = await buildServer(folder, { loopbackOnly: isLoopback(host) });
  const { port, taken } = await listenFrom(server, host, wanted);
  if (taken.length > 0) {
    process.stdout.write(`Port ${taken.join(', ')} is taken by another program; using ${port}.\n`);
  }
  const warning = warningFor(host);
  if (warning !== null) process.stderr.write(`${warning}\n`);
  process.stdout.write(`Rotunda: ${addressOf(host, port)}${demo ? 'demo' : ''}\n`);
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n${HELP}\n`);
  process.exitCode = 1;
});
