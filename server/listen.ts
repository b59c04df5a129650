import type { FastifyInstance } from 'fastify';

export interface Listening {
  port: number;
  /** ports that were asked for first but taken */
  taken: number[];
}

const TRIES = 20;
const isTaken = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';

/** Listens on the wanted port, or on the next free one. */
export async function listenFrom(
  server: FastifyInstance,
  host: string,
  wanted: number,
): Promise<Listening> {
  const taken: number[] = [];
  for (let port = wanted; port < wanted + TRIES; port++) {
    try {
      await server.listen({ host, port });
      return { port, taken };
    } catch (error) {
      if (!isTaken(error)) throw error;
      taken.push(port);
    }
  }
  throw new Error(
    `ports ${wanted} to ${wanted + TRIES - 1} are all taken; give another with --port`,
  );
}
