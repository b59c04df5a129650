import type { FastifyInstance } from 'fastify';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import WebSocket from 'ws';
import { fromServer, STAGE_LIMITS, STAGE_SOCKET, type FromServer } from '../core/stage';
import { buildServer } from './app';
import { Hub, type StageSocket } from './hub';
import { chosenHost, namesThisMachine, stageAddresses } from './stage';

let server: FastifyInstance;
let hub: Hub;
let port = 0;

beforeEach(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'rotunda-stage-'));
  writeFileSync(join(folder, 'index.html'), '<title>app</title>');
  hub = new Hub(['http://192.0.2.7:4600/stage']);
  server = await buildServer(folder, { loopbackOnly: true, stage: { hub, host: '127.0.0.1' } });
  await server.listen({ host: '127.0.0.1', port: 0 });
  const address = server.server.address();
  port = typeof address === 'object' && address ? address.port : 0;
});
afterEach(() => server.close());

interface Client {
  say: (message: unknown) => void;
  raw: WebSocket;
  next: <K extends FromServer['kind']>(kind: K) => Promise<Extract<FromServer, { kind: K }>>;
  closed: Promise<number>;
}

/** A page of this server, as the server sees it. */
async function client(headers: Record<string, string> = {}): Promise<Client> {
  const raw = new WebSocket(`ws://127.0.0.1:${port}${STAGE_SOCKET}`, {
    headers: { origin: `http://127.0.0.1:${port}`, ...headers },
  });
  const heard: FromServer[] = [];
  const waiting: (() => void)[] = [];
  raw.on('message', (data: Buffer) => {
    heard.push(fromServer.parse(JSON.parse(data.toString())));
    for (const wake of waiting.splice(0)) wake();
  });
  const closed = new Promise<number>((done) => raw.on('close', (code) => done(code)));
  await new Promise<void>((done, fail) => {
    raw.on('open', () => done());
    raw.on('error', fail);
  });
  return {
    raw,
    closed,
    say: (message) => raw.send(JSON.stringify(message)),
    async next<K extends FromServer['kind']>(kind: K) {
      for (;;) {
        const i = heard.findIndex((one) => one.kind === kind);
        if (i >= 0) return heard.splice(i, 1)[0] as Extract<FromServer, { kind: K }>;
        await new Promise<void>((wake) => waiting.push(wake));
      }
    },
  };
}

async function booth(token: string | null = null) {
  const one = await client();
  one.say({ kind: 'open', token });
  return { ...one, ...(await one.next('opened')) };
}

async function joined(code: string, name = 'Ina') {
  const one = await client();
  one.say({ kind: 'join', code, name });
  const { token, device } = await one.next('joined');
  return { ...one, token, device };
}

const wire = { kind: 'have', life: 'x', n: 0 } as const;

describe('the stage’s socket', () => {
  it('lets a device in by the code alone, and passes on between it and its booth', async () => {
    const one = await booth();
    expect(one.code).toMatch(/^\d{6}$/);
    expect(one.addresses).toEqual(['http://192.0.2.7:4600/stage']);
    const ina = await joined(one.code);
    const bo = await joined(one.code, 'Ina');
    const { devices } = await one.next('devices');
    expect(devices.map(({ name }) => name)).toEqual(['Ina']);
    // Two of one name are told apart.
    expect((await one.next('devices')).devices.map(({ name }) => name)).toEqual(['Ina', 'Ina 2']);
    one.say({ kind: 'pass', device: bo.device, wire });
    expect(await bo.next('passed')).toMatchObject({ wire });
    // Whatever device it names, it is itself.
    ina.say({ kind: 'pass', device: bo.device, wire });
    expect((await one.next('passed')).device).toBe(ina.device);
  });

  it('refuses wrong codes, ten of them as well, and then the right one for a minute', async () => {
    const one = await booth();
    const wrong = one.code === '000000' ? '000001' : '000000';
    const why: string[] = [];
    const other = await client();
    for (let i = 0; i < 10; i++) {
      other.say({ kind: 'join', code: wrong, name: 'X' });
      why.push((await other.next('refused')).why);
    }
    expect(why).toEqual(Array.from({ length: 10 }, (_, i) => (i < 5 ? 'wrong code' : 'wait')));
    other.say({ kind: 'join', code: one.code, name: 'X' });
    expect((await other.next('refused')).why).toBe('wait');
  });

  it('makes every code anew after many wrong ones from wherever they come', () => {
    const heard: string[] = [];
    const socket = (): StageSocket & { say: (message: unknown) => void } => {
      let hear: (data: unknown, isBinary: boolean) => void = () => undefined;
      return {
        send: (text) => heard.push(text),
        close: () => undefined,
        terminate: () => undefined,
        ping: () => undefined,
        on: (event: string, heard: never) => void (event === 'message' && (hear = heard)),
        bufferedAmount: 0,
        say: (message) => hear(JSON.stringify(message), false),
      };
    };
    const own = socket();
    hub.connect(own, { address: '127.0.0.1', here: true });
    own.say({ kind: 'open', token: null });
    const opened = fromServer.parse(JSON.parse(heard[0] ?? ''));
    if (opened.kind !== 'opened') throw new Error('not opened');
    for (let i = 0; i < STAGE_LIMITS.triesOfAll; i++) {
      const other = socket();
      hub.connect(other, { address: `10.0.0.${i}`, here: false });
      other.say({ kind: 'join', code: opened.code === '000000' ? '000001' : '000000', name: 'X' });
    }
    const anew = heard
      .map((text) => fromServer.parse(JSON.parse(text)))
      .find((one) => one.kind === 'code');
    expect(anew).toMatchObject({ tried: true });
    // A booth is opened on this machine, and nowhere else.
    const far = socket();
    hub.connect(far, { address: '10.0.0.9', here: false });
    far.say({ kind: 'open', token: null });
    expect(JSON.parse(heard.at(-1) ?? '')).toEqual({ kind: 'refused', why: 'elsewhere' });
  });

  it('lets go whoever sends what is no message, too long a one, or too many', async () => {
    await booth();
    const closes = async (send: (one: Client) => void): Promise<number> => {
      const one = await client();
      one.raw.on('error', () => undefined);
      send(one);
      return one.closed;
    };
    expect(await closes((one) => one.raw.send('{"kind":'))).toBe(1008);
    expect(await closes((one) => one.say({ kind: 'pass', device: 'x', wire, more: 1 }))).toBe(1008);
    expect(await closes((one) => one.raw.send(Buffer.from([1, 2, 3])))).toBe(1008);
    expect(await closes((one) => one.raw.send('x'.repeat(STAGE_LIMITS.frameBytes + 1)))).toBe(1009);
    const many = await closes((one) => {
      for (let i = 0; i < 2 * STAGE_LIMITS.framesAtOnce; i++) one.say({ kind: 'ping' });
    });
    expect(many).toBe(1008);
    // What belongs to a booth or a device is not for one who is neither.
    expect(await closes((one) => one.say({ kind: 'pass', device: 'x', wire }))).toBe(1008);
  });

  it('hears only pages of this server', async () => {
    await expect(client({ origin: 'http://elsewhere.test' })).rejects.toThrow('403');
    await expect(client({ host: 'elsewhere.test' })).rejects.toThrow('421');
    const { headers } = await server.inject({ url: '/', headers: { host: `127.0.0.1:${port}` } });
    const policy = `${headers['content-security-policy']}`;
    expect(policy).toContain(`connect-src 'self' ws://127.0.0.1:${port};`);
    expect(policy).not.toContain('upgrade-insecure-requests');
    expect(headers['strict-transport-security']).toBeUndefined();
  });

  it('a booth comes back with its token; a second one has devices of its own', async () => {
    const one = await booth();
    const ina = await joined(one.code);
    one.raw.close();
    expect(await ina.next('booth')).toMatchObject({ here: false });
    const again = await booth(one.token);
    expect(again.devices.map(({ name }) => name)).toEqual(['Ina']);
    expect(await ina.next('booth')).toMatchObject({ here: true });
    const second = await booth();
    expect(second.token).not.toBe(one.token);
    expect(second.devices).toEqual([]);
    second.say({ kind: 'pass', device: ina.device, wire });
    second.say({ kind: 'put out', device: ina.device });
    again.say({ kind: 'ping' });
    await again.next('pong');
    // The same booth in another tab takes over, and the first is told.
    const third = await booth(one.token);
    expect((await again.next('refused')).why).toBe('taken');
    third.say({ kind: 'close' });
    expect((await ina.next('refused')).why).toBe('gone');
    const late = await client();
    late.say({ kind: 'back', token: ina.token });
    expect((await late.next('refused')).why).toBe('gone');
  });
});

describe('where the stage is reached', () => {
  it('is asked in words, and only one of the answers opens anything', () => {
    expect(chosenHost('', ['192.0.2.7'])).toBe('127.0.0.1');
    expect(chosenHost('0', ['192.0.2.7'])).toBe('127.0.0.1');
    expect(chosenHost('1', ['192.0.2.7'])).toBe('192.0.2.7');
    for (const bad of ['2', '-1', '1.5', 'all', '192.0.2.7']) {
      expect(chosenHost(bad, ['192.0.2.7'])).toBeNull();
    }
  });

  it('is the address that is listened on, and no name of somebody else', () => {
    expect(stageAddresses('127.0.0.1', 4600)).toEqual([]);
    expect(stageAddresses('192.0.2.7', 4600)).toEqual(['http://192.0.2.7:4600/stage']);
    expect(namesThisMachine('192.0.2.7:4600', '192.0.2.7')).toBe(true);
    expect(namesThisMachine('localhost:4600', '192.0.2.7')).toBe(true);
    for (const bad of ['elsewhere.test', '192.0.2.8:4600', '', 'a b', undefined]) {
      expect(namesThisMachine(bad, '192.0.2.7')).toBe(false);
    }
  });
});
