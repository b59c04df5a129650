import { brotliCompressSync, brotliDecompressSync } from 'node:zlib';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { buildServer } from './app';
import { addressOf, namesLoopback, warningFor } from './hosts';
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
      const policy = `${headers['content-security-policy']}`;
      expect(policy).toMatch(/^default-src 'none';script-src 'self' 'wasm-unsafe-eval';/);
      // Compiled transforms of our own files, and nothing else that is unsafe.
      expect(policy.replace("'wasm-unsafe-eval'", '')).not.toMatch(/unsafe|\*|https?:/);
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

  it('allows the device only what a page needs, and never the microphone', async () => {
    const server = await buildServer(builtApp());
    const policy = String((await server.inject('/')).headers['permissions-policy']);
    for (const used of ['camera', 'accelerometer', 'gyroscope', 'screen-wake-lock', 'fullscreen']) {
      expect(policy).toContain(`${used}=(self)`);
    }
    expect(policy).toContain('microphone=()');
    expect(policy).toContain('geolocation=()');
  });

  it('compresses what is worth it', async () => {
    const folder = builtApp();
    writeFileSync(join(folder, 'assets', 'long.js'), 'const a = 1;\n'.repeat(2000));
    const server = await buildServer(folder);
    const headers = { 'accept-encoding': 'gzip' };
    const answer = await server.inject({ url: '/assets/long.js', headers });
    expect(answer.headers['content-encoding']).toBe('gzip');
    expect(answer.rawPayload.length).toBeLessThan(2000);
    expect((await server.inject('/assets/long.js')).body.length).toBe(26_000);
  });

  it('hands out what the build has packed, and the plain file to who cannot unpack it', async () => {
    const folder = builtApp();
    const text = 'const b = 2;\n'.repeat(2000);
    writeFileSync(join(folder, 'assets', 'packed.js'), text);
    writeFileSync(join(folder, 'assets', 'packed.js.br'), brotliCompressSync(text));
    const server = await buildServer(folder);
    const ask = (encoding: string) =>
      server.inject({
        url: '/assets/packed.js',
        headers: { 'accept-encoding': encoding },
      });
    const packed = await ask('gzip, deflate, br');
    expect(packed.headers['content-encoding']).toBe('br');
    expect(String(packed.headers['content-type'])).toMatch(/javascript/);
    expect(packed.headers['cache-control']).toContain('immutable');
    expect(brotliDecompressSync(packed.rawPayload).toString()).toBe(text);
    expect((await ask('identity')).body).toBe(text);
    const index = await server.inject({ url: '/', headers: { 'accept-encoding': 'br' } });
    expect(index.statusCode).toBe(200);
  });

  it('refuses what cannot be read with the same policy: 400 and 431', async () => {
    const server = await buildServer(builtApp());
    const { port } = await listenFrom(server, '127.0.0.1', 4710);
    const ask = (text: string) =>
      new Promise<string>((resolve) => {
        let got = '';
        const socket = connect(port, '127.0.0.1', () => socket.write(text));
        socket.on('data', (data) => (got += String(data)));
        socket.on('close', () => resolve(got));
        socket.on('error', () => resolve(got));
      });
    const host = 'host: localhost\r\nconnection: close';
    const answers = [
      await ask('nonsense\r\n\r\n'),
      await ask(`GET /%zz HTTP/1.1\r\n${host}\r\n\r\n`),
      await ask(`GET / HTTP/1.1\r\n${host}\r\nx: ${'y'.repeat(40_000)}\r\n\r\n`),
    ];
    expect(answers.map((answer) => answer.slice(9, 12))).toEqual(['400', '400', '431']);
    for (const answer of answers) {
      expect(answer.toLowerCase()).toContain("content-security-policy: default-src 'none'");
      expect(answer.toLowerCase()).toContain('permissions-policy: ');
      expect(answer.toLowerCase()).toContain('x-content-type-options: nosniff');
    }
    await server.close();
  });

  it('closes a connection that never says what it wants', { timeout: 40_000 }, async () => {
    const server = await buildServer(builtApp());
    const { port } = await listenFrom(server, '127.0.0.1', 4740);
    const closed = new Promise<number>((resolve) => {
      const from = Date.now();
      const socket = connect(port, '127.0.0.1', () => socket.write('GET / HTTP/1.1\r\nx: '));
      socket.on('error', () => undefined);
      socket.on('close', () => resolve(Date.now() - from));
      socket.resume();
    });
    expect(await closed).toBeLessThan(30_000);
    await server.close();
  });

  it('on loopback answers to the names of this machine only', async () => {
    const server = await buildServer(builtApp(), { loopbackOnly: true });
    const status = async (host: string) =>
      (await server.inject({ url: '/', headers: { host } })).statusCode;
    expect(await status('localhost:4600')).toBe(200);
    expect(await status('127.0.0.1')).toBe(200);
    expect(await status('[::1]:4600')).toBe(200);
    expect(await status('evil.example')).toBe(421);
    expect(await status('localhost.evil.example:4600')).toBe(421);
    expect(namesLoopback(undefined)).toBe(false);
  });

  it('prints addresses that can be typed, and warns where others can reach it', () => {
    expect(addressOf('::1', 4600)).toBe('http://[::1]:4600/');
    expect(addressOf('::', 4600)).toBe('http://localhost:4600/');
    expect(addressOf('127.0.0.1', 80)).toBe('http://127.0.0.1:80/');
    expect(warningFor('127.0.0.1')).toBeNull();
    expect(warningFor('::1')).toBeNull();
    expect(warningFor('192.168.1.7')).toMatch(/local network/);
    expect(warningFor('8.8.4.4')).toMatch(/internet/);
    expect(warningFor('0.0.0.0')).toMatch(/internet/);
  });
});
