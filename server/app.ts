import compress from '@fastify/compress';
import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { PERMISSIONS, POLICY, rawRefusal, REFUSAL_HEADERS, withSocket } from './headers';
import { namesLoopback } from './hosts';
import type { Hub } from './hub';
import { STAGE_STATE } from '../core/stage';
import { addStage, namesThisMachine } from './stage';

/** Pages of the app that exist only in the browser's router: all are served the same document. */
const APP_PATHS = /^\/(demo|formulas|guide|stage(\/simulated)?|session(\/.*)?)?$/;

const HEADERS_MS = 10_000;
const REQUEST_MS = 20_000;
const IDLE_MS = 60_000;

export interface ServerOptions {
  /** refuse requests whose Host header names anything but this machine */
  loopbackOnly?: boolean;
  /** the second screen: who is in the hall, and the address that is listened on */
  stage?: { hub: Hub; host: string };
}

/**
 * The server: the built app and nothing else, with headers that forbid everything the app does
 * not need.
 * @param folder absolute path of the built app
 */
export async function buildServer(
  folder: string,
  { loopbackOnly = false, stage }: ServerOptions = {},
): Promise<FastifyInstance> {
  const server = Fastify({
    logger: false,
    // A client that sends nothing, or very slowly, is let go.
    connectionTimeout: IDLE_MS,
    requestTimeout: REQUEST_MS,
    keepAliveTimeout: 10_000,
    http: { headersTimeout: HEADERS_MS, connectionsCheckingInterval: 2000 },
    clientErrorHandler(error, socket) {
      if (!socket.writable) return;
      const { code } = error as { code?: string };
      if (code === 'HPE_HEADER_OVERFLOW') {
        socket.end(rawRefusal(431, 'Request Header Fields Too Large'));
      } else if (code === 'ERR_HTTP_REQUEST_TIMEOUT') {
        socket.end(rawRefusal(408, 'Request Timeout'));
      } else socket.end(rawRefusal(400, 'Bad Request'));
    },
    frameworkErrors(_error, _request, reply) {
      const plain = reply as unknown as FastifyReply;
      void plain.code(400).headers(REFUSAL_HEADERS).send('Bad Request');
    },
  });
  server.addHook('onRequest', async (request, reply) => {
    reply.header('permissions-policy', PERMISSIONS);
    const { host } = request.headers;
    if (loopbackOnly ? namesLoopback(host) : !stage || namesThisMachine(host, stage.host)) return;
    const whom = loopbackOnly ? 'localhost' : 'the addresses of its own machine';
    await reply.code(421).headers(REFUSAL_HEADERS).send(`This server answers to ${whom} only`);
  });
  await server.register(compress, { global: true, encodings: ['br', 'gzip'] });
  await server.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: stage ? withSocket(POLICY) : { ...POLICY },
    },
    crossOriginEmbedderPolicy: true,
    strictTransportSecurity: false,
    referrerPolicy: { policy: 'no-referrer' },
  });
  server.get(STAGE_STATE, async (_request, reply) => {
    reply.header('cache-control', 'no-store');
    return { stage: stage !== undefined };
  });
  if (stage) await addStage(server, stage.hub);
  await server.register(fastifyStatic, {
    root: folder,
    // What the build packed once as small as it gets goes out as it is.
    preCompressed: true,
    wildcard: true,
    index: ['index.html'],
    dotfiles: 'ignore',
    cacheControl: false,
    setHeaders: (response, path) => {
      const lasting = /[\\/]assets[\\/]/.test(path);
      response.header(
        'Cache-Control',
        lasting ? 'public, max-age=31536000, immutable' : 'no-cache',
      );
    },
  });
  server.setNotFoundHandler(async (request, reply) => {
    const path = request.url.split('?')[0] ?? '';
    if ((request.method === 'GET' || request.method === 'HEAD') && APP_PATHS.test(path))
      return reply.sendFile('index.html');
    return reply.code(404).type('text/plain').send('Not found');
  });
  return server;
}
