import helmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyInstance } from 'fastify';

/** Pages of the app that exist only in the browser's router: all are served the same document. */
const APP_PATHS = /^\/(demo|formulas|session(\/.*)?)?$/;

/**
 * The server: the built app and nothing else, with headers that forbid everything the app does
 * not need.
 * @param folder absolute path of the built app
 */
export async function buildServer(folder: string): Promise<FastifyInstance> {
  const server = Fastify({ logger: false });
  await server.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'"],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: true,
    strictTransportSecurity: false,
    referrerPolicy: { policy: 'no-referrer' },
  });
  await server.register(fastifyStatic, {
    root: folder,
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
