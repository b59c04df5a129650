import { existsSync } from 'node:fs';
import { createInterface } from 'node:readline/promises';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { buildServer } from './app';
import { addressOf, isLoopback, warningFor } from './hosts';
import { Hub } from './hub';
import { listenFrom } from './listen';
import { chosenHost, hostQuestion, ownAddresses, stageAddresses } from './stage';

const HERE = '127.0.0.1';
const HELP = `Options: --port N (default 4600)   --host ADDRESS (default ${HERE}: this machine only)
         --stage (phones and tablets in the hall may join by a code; without --host it is asked where)`;

function options() {
  const { values } = parseArgs({
    options: {
      port: { type: 'string', default: process.env.PORT ?? '4600' },
      host: { type: 'string' },
      demo: { type: 'boolean', default: false },
      stage: { type: 'boolean', default: false },
    },
  });
  const port = Number(values.port);
  if (!(Number.isInteger(port) && port >= 1 && port <= 65500)) {
    throw new Error(`--port: "${values.port}"; allowed: a whole number from 1 to 65500`);
  }
  return { port, host: values.host ?? null, demo: values.demo, stage: values.stage };
}

/** Where a stage is to be reached, asked on a terminal; nowhere else is anything opened unasked. */
async function askedHost(): Promise<string> {
  const addresses = ownAddresses();
  if (!process.stdin.isTTY || !process.stdout.isTTY || addresses.length === 0) return HERE;
  const asking = createInterface({ input: process.stdin, output: process.stdout });
  try {
    for (;;) {
      const host = chosenHost(await asking.question(hostQuestion(addresses)), addresses);
      if (host !== null) return host;
    }
  } finally {
    asking.close();
  }
}

async function main(): Promise<void> {
  const { port: wanted, host: given, demo, stage } = options();
  const folder = join(dirname(dirname(fileURLToPath(import.meta.url))), 'dist');
  if (!existsSync(join(folder, 'index.html'))) {
    throw new Error('the app is not built yet; run npm run demo');
  }
  const host = given ?? (stage ? await askedHost() : HERE);
  const hub = stage ? new Hub() : null;
  const build = () =>
    buildServer(folder, {
      loopbackOnly: isLoopback(host),
      ...(hub && { stage: { hub, host } }),
    });
  const server = await build();
  const { port, taken } = await listenFrom(server, host, wanted);
  if (taken.length > 0) {
    process.stdout.write(`Port ${taken.join(', ')} is taken by another program; using ${port}.\n`);
  }
  const warning = warningFor(host);
  if (warning !== null) process.stderr.write(`${warning}\n`);
  const page = demo ? 'demo' : '';
  if (!hub) {
    process.stdout.write(`Rotunda: ${addressOf(host, port)}${page}\n`);
    return;
  }
  // The booth stays where its sessions are: a browser keeps those of each address apart.
  const isWide = host === '0.0.0.0' || host === '::';
  if (!isLoopback(host) && !isWide) await (await build()).listen({ host: HERE, port });
  hub.addresses = stageAddresses(host, port);
  process.stdout.write(`Rotunda: ${addressOf(isLoopback(host) ? host : HERE, port)}${page}\n`);
  process.stdout.write(
    hub.addresses.length === 0
      ? 'The stage: only from this machine. Give --host with its address in the local network for phones and tablets.\n'
      : `The stage: ${hub.addresses.join('  ')}\n`,
  );
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n${HELP}\n`);
  process.exitCode = 1;
});
