import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { buildServer } from './app';
import { listenFrom } from './listen';

function builtApp(): string {
  const folder = mkdtempSync(join(tmpdir(), 'rotunda-dist-'));
  mkdirSync(join(folder, 'assets'));
  writeFileSync(join(folder, 'index.html'), '<title>app</title>');
  writeFileSync(join(folder, 'assets', 'a.js'), '1');
  writeFileSync(join(folder, '.rotunda-build'), 'secret');
  return folder;
}

describe('server', () => {
  it('sends a strict policy with every answer', async () => {
    const server = await buildServer(builtApp());
    for (const url of ['/', '/session/x/floor', '/nothing.js']) {
      const { headers } = await server.inject(url);
      expect(headers['content-security-policy']).toMatch(/^default-src 'none';script-src 'self'/);
      expect(headers['content-security-policy']).not.toMatch(/unsafe|\*|https?:/);
      expect(headers['x-content-type-options']).toBe('nosniff');
      expect(headers['referrer-policy']).toBe('no-referrer');
    }
  });

  it('serves the app for its own addresses and nothing else', async () => {
    const server = await buildServer(builtApp());
    const status = async (url: string) => (await server.inject(url)).statusCode;
    expect((await server.inject('/session/abc/rig?x=1')).body).toContain('<title>app</title>');
    expect(await status('/demo')).toBe(200);
    expect(await status('/etc/passwd')).toBe(404);
    expect(await status('/../package.json')).toBe(404);
    expect(await status('/..%2f..%2fpackage.json')).not.toBe(200);
    expect(await status('/.rotunda-build')).toBe(404);
    expect((await server.inject({ method: 'POST', url: '/demo' })).statusCode).toBe(404);
  });

  it('lets named assets be kept and asks again for the document', async () => {
    const server = await buildServer(builtApp());
    expect((await server.inject('/assets/a.js')).headers['cache-control']).toMatch(/immutable/);
    expect((await server.inject('/')).headers['cache-control']).toBe('no-cache');
  });

  it('takes the next free port when one is taken', async () => {
    const blocker = createServer();
    const wanted = await new Promise<number>((resolve) => {
      blocker.listen(0, '127.0.0.1', () => {
        const address = blocker.address();
        resolve(typeof address === 'object' && address ? address.port : 0);
      });
    });
    const server = await buildServer(builtApp());
    const { port, taken } = await listenFrom(server, '127.0.0.1', wanted);
    expect(taken[0]).toBe(wanted);
    expect(port).toBeGreaterThan(wanted);
    const answer = await fetch(`http://127.0.0.1:${port}/`);
    expect(answer.status).toBe(200);
    await server.close();
    blocker.close();
  });
});
