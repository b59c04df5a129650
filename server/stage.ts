import websocket from '@fastify/websocket';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { hostname, networkInterfaces } from 'node:os';
import { isIP } from 'node:net';
import { STAGE_LIMITS, STAGE_SOCKET } from '../core/stage';
import { isLoopback, nameOf } from './hosts';
import type { Hub } from './hub';
import { REFUSAL_HEADERS } from './headers';

/** The second screen: a socket between the booth and devices in the hall, on the local network. */

/** Addresses of this machine in its networks, without those that only it can reach. */
export function ownAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter(({ internal, scopeid }) => !internal && !scopeid)
    .map(({ address }) => address);
}

/** Where a device in the hall reaches the stage's page, given what is listened on. */
export function stageAddresses(host: string, port: number): string[] {
  if (isLoopback(host)) return [];
  const any = host === '0.0.0.0' || host === '::';
  const all = any ? ownAddresses().filter((one) => isIP(one) === 4 || host === '::') : [host];
  return all.map((one) => `http://${isIP(one) === 6 ? `[${one}]` : one}:${port}/stage`);
}

/** What is asked on a terminal: where the stage is to be reached. */
export const hostQuestion = (addresses: readonly string[]): string =>
  [
    'Where may phones and tablets reach the stage? Everybody in that network can load the page; without the code they get nothing.',
    '  0  only this machine',
    ...addresses.map((address, i) => `  ${i + 1}  ${address}`),
    'Number, or Enter for 0: ',
  ].join('\n');

/** What was answered to it, as an address; null where it is none of the numbers. */
export function chosenHost(answer: string, addresses: readonly string[]): string | null {
  const text = answer.trim();
  if (text === '' || text === '0') return '127.0.0.1';
  return /^\d+$/.test(text) ? (addresses[Number(text) - 1] ?? null) : null;
}

/** Whether a Host header names this machine: a name of another site's is refused, whoever sends it. */
export function namesThisMachine(header: string | undefined, host: string): boolean {
  const name = nameOf(header).toLowerCase();
  const own = hostname().toLowerCase();
  return (
    isLoopback(name) ||
    name === host.toLowerCase() ||
    name === own ||
    name === `${own}.local` ||
    (isIP(name) !== 0 && ownAddresses().includes(name))
  );
}

/** A page of this very server asks: its origin is where it asks. */
export function isOwnPage({ headers }: Pick<FastifyRequest, 'headers'>): boolean {
  const { origin, host } = headers;
  return (
    origin !== undefined &&
    host !== undefined &&
    origin.toLowerCase() === `http://${host.toLowerCase()}`
  );
}

const plain = (address: string): string => address.replace(/^::ffff:/, '');

/** Puts the socket on the server. */
export async function addStage(server: FastifyInstance, hub: Hub): Promise<void> {
  await server.register(websocket, {
    options: { maxPayload: STAGE_LIMITS.frameBytes, perMessageDeflate: false },
  });
  server.get(
    STAGE_SOCKET,
    {
      websocket: true,
      preValidation: async (request, reply) => {
        if (isOwnPage(request)) return;
        await reply.code(403).headers(REFUSAL_HEADERS).send('Only pages of this server');
      },
    },
    (socket, request) => {
      const { remoteAddress = '', localAddress = '' } = request.socket;
      const address = plain(remoteAddress);
      hub.connect(socket, {
        address,
        here: isLoopback(address) || address === plain(localAddress),
      });
    },
  );
  // Who was answered in words instead of a socket is let go: that connection is of no further use.
  server.addHook('onResponse', ({ headers, raw }, _reply, done) => {
    if (headers.upgrade) raw.socket.destroySoon();
    done();
  });
  server.addHook('onClose', () => hub.close());
}
