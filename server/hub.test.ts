import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { fromServer, STAGE_LIMITS, type FromServer } from '../core/stage';
import { Hub, type StageSocket } from './hub';

let hub: Hub;

beforeEach(() => {
  vi.useFakeTimers();
  hub = new Hub();
});
afterEach(() => {
  hub.close();
  vi.useRealTimers();
});

/** Somebody who is linked, with what they were told. */
function peer(here = true) {
  const told: FromServer[] = [];
  const hears = new Map<string, (data?: unknown, isBinary?: boolean) => void>();
  const close = (): void => hears.get('close')?.();
  const socket: StageSocket = {
    send: (text) => void told.push(fromServer.parse(JSON.parse(text))),
    close,
    terminate: close,
    ping: () => hears.get('pong')?.(),
    on: (event: string, heard: never) => hears.set(event, heard),
    bufferedAmount: 0,
  };
  hub.connect(socket, { address: here ? '127.0.0.1' : '10.0.0.7', here });
  return {
    told,
    socket,
    close,
    say: (message: unknown) => hears.get('message')?.(JSON.stringify(message), false),
    last: <K extends FromServer['kind']>(kind: K) =>
      told.filter((one): one is Extract<FromServer, { kind: K }> => one.kind === kind).at(-1),
  };
}

function opened(token: string | null = null) {
  const booth = peer();
  booth.say({ kind: 'open', token });
  const { token: own = '', code = '' } = booth.last('opened') ?? {};
  return { ...booth, token: own, code };
}

function joined(code: string, name: string) {
  const device = peer(false);
  device.say({ kind: 'join', code, name });
  return { ...device, token: device.last('joined')?.token ?? '' };
}

it('a booth that comes back in time goes on; later nothing of it is left', () => {
  const booth = opened();
  const ina = joined(booth.code, 'Ina');
  booth.close();
  vi.advanceTimersByTime(STAGE_LIMITS.awayS * 1000 - 1000);
  const back = opened(booth.token);
  expect(back.token).toBe(booth.token);
  back.close();
  vi.advanceTimersByTime(STAGE_LIMITS.awayS * 1000 + 1000);
  expect(ina.last('refused')?.why).toBe('gone');
  expect(opened(booth.token).token).not.toBe(booth.token);
});

it('a code runs out and is made anew; who has joined stays', () => {
  const booth = opened();
  const ina = joined(booth.code, 'Ina');
  vi.advanceTimersByTime(STAGE_LIMITS.codeS * 1000 + 11_000);
  const late = joined(booth.code, 'Late');
  expect(late.last('refused')?.why).toBe('wrong code');
  const code = booth.last('code')?.code ?? '';
  expect(joined(code, 'Bo').last('joined')).toBeDefined();
  expect(ina.last('refused')).toBeUndefined();
  expect(booth.last('devices')?.devices.map(({ name }) => name)).toEqual(['Ina', 'Bo']);
});

it('takes so many booths and devices, and lets one that is away go for one that is here', () => {
  const booth = opened();
  const all = Array.from({ length: STAGE_LIMITS.devices }, (_, i) => joined(booth.code, `D${i}`));
  expect(joined(booth.code, 'More').last('refused')?.why).toBe('full');
  all[3]?.close();
  expect(joined(booth.code, 'More').last('joined')).toBeDefined();
  expect(booth.last('devices')?.devices.map(({ name }) => name)).not.toContain('D3');
  for (let i = 1; i < STAGE_LIMITS.booths; i++) opened();
  const more = peer();
  more.say({ kind: 'open', token: null });
  expect(more.last('refused')?.why).toBe('too many booths');
});

it('a link over which nothing comes back is ended, and a device that stays away is let go', () => {
  const booth = opened();
  const ina = joined(booth.code, 'Ina');
  ina.socket.ping = () => undefined;
  vi.advanceTimersByTime(21_000);
  expect(booth.last('devices')?.devices[0]?.here).toBe(false);
  vi.advanceTimersByTime(STAGE_LIMITS.deviceAwayS * 1000 + 1000);
  expect(booth.last('devices')?.devices).toEqual([]);
});

it('of a slow device nothing is piled up without end', () => {
  const booth = opened();
  const ina = joined(booth.code, 'Ina');
  const id = booth.last('devices')?.devices[0]?.id ?? '';
  Object.defineProperty(ina.socket, 'bufferedAmount', { value: 9_000_000 });
  booth.say({ kind: 'pass', device: id, wire: { kind: 'have', life: 'x', n: 0 } });
  expect(booth.last('devices')?.devices[0]?.here).toBe(false);
});
