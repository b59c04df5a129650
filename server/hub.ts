import { randomBytes, randomInt } from 'node:crypto';
import {
  readWire,
  STAGE_LIMITS,
  toServer,
  type FromServer,
  type Refusal,
  type StageDevice,
  type ToServer,
} from '../core/stage';

/**
 * Booths and the devices in the hall that joined them. All of it is in memory: what a booth and its
 * devices say goes through and is kept nowhere, and a booth that does not come back leaves nothing.
 */

/** As much of a socket as is needed of one. */
export interface StageSocket {
  send(text: string): void;
  close(code?: number, reason?: string): void;
  terminate(): void;
  ping(): void;
  on(event: 'message', heard: (data: unknown, isBinary: boolean) => void): unknown;
  on(event: 'pong' | 'close', heard: () => void): unknown;
  on(event: 'error', heard: (error: Error) => void): unknown;
  readonly bufferedAmount: number;
}

export interface Peer {
  /** the address it comes from */
  address: string;
  /** whether that is this machine */
  here: boolean;
}

interface Device {
  id: string;
  name: string;
  token: string;
  link: Link | null;
  since: string;
  /** lets it go where it stays away */
  away: NodeJS.Timeout | null;
}

interface Room {
  token: string;
  code: string;
  codeUntil: number;
  booth: Link | null;
  devices: Map<string, Device>;
  away: NodeJS.Timeout | null;
}

/** More than so many bytes that wait for a slow device, and it is let go: it comes back for the rest. */
const MOST_WAITING = 8_000_000;
const PING_MS = 10_000;
/** WebSocket: what was sent is against the rules. */
const [POLICY, NORMAL] = [1008, 1000];

/** One connection, and what it turned out to be. */
class Link {
  /** the booth's room, or the device's */
  room: Room | null = null;
  device: Device | null = null;
  alive = true;
  private budget: number = STAGE_LIMITS.framesAtOnce;
  private filledAt = Date.now();

  constructor(
    readonly socket: StageSocket,
    readonly peer: Peer,
  ) {}

  say(message: FromServer): void {
    if (this.socket.bufferedAmount > MOST_WAITING) return this.socket.terminate();
    this.socket.send(JSON.stringify(message));
  }

  refuse(why: Refusal): void {
    this.say({ kind: 'refused', why });
    this.socket.close(POLICY, why);
  }

  /** Whether one more frame may come just now. */
  mayCome(): boolean {
    const now = Date.now();
    const { framesPerS, framesAtOnce } = STAGE_LIMITS;
    this.budget = Math.min(framesAtOnce, this.budget + ((now - this.filledAt) / 1000) * framesPerS);
    this.filledAt = now;
    this.budget -= 1;
    return this.budget >= 0;
  }
}

const newToken = (): string => randomBytes(16).toString('hex');
const toldOf = ({ id, name, link, since }: Device): StageDevice => ({
  ...{ id, name, since },
  here: link !== null,
});

export class Hub {
  private readonly rooms = new Map<string, Room>();
  private readonly links = new Set<Link>();
  /** wrong codes by the address that they came from */
  private readonly tries = new Map<string, { count: number; until: number }>();
  private wrongCodes = 0;
  private readonly pinging: NodeJS.Timeout;

  /** @param addresses where a device in the hall reaches the stage's page */
  constructor(public addresses: readonly string[] = []) {
    this.pinging = setInterval(() => this.ping(), PING_MS);
    this.pinging.unref();
  }

  /** Lets everybody go. */
  close(): void {
    clearInterval(this.pinging);
    for (const room of this.rooms.values()) this.end(room);
    for (const { socket } of this.links) socket.terminate();
  }

  /** A connection that was made. */
  connect(socket: StageSocket, peer: Peer): void {
    const link = new Link(socket, peer);
    this.links.add(link);
    socket.on('pong', () => (link.alive = true));
    socket.on('close', () => this.gone(link));
    // What is too long or no frame at all closes the socket by itself.
    socket.on('error', () => undefined);
    socket.on('message', (data, isBinary) => {
      link.alive = true;
      if (!link.mayCome()) return link.refuse('rate');
      const message = isBinary ? null : readWire(toServer, String(data));
      if (!message) return link.refuse('no message');
      this.hear(link, message);
    });
  }

  private ping(): void {
    for (const link of this.links) {
      if (!link.alive) {
        link.socket.terminate();
        continue;
      }
      link.alive = false;
      link.socket.ping();
    }
    const now = Date.now();
    for (const [address, { until }] of this.tries) if (until < now) this.tries.delete(address);
    for (const room of this.rooms.values()) if (room.codeUntil < now) this.renew(room, false);
  }

  private hear(link: Link, message: ToServer): void {
    switch (message.kind) {
      case 'ping':
        return link.say({ kind: 'pong' });
      case 'open':
        return this.open(link, message.token);
      case 'join':
        return this.join(link, message.code, message.name);
      case 'back':
        return this.back(link, message.token);
      case 'pass':
        return this.pass(link, message);
      case 'leave':
        if (link.room && link.device) this.putOut(link.room, link.device, null);
        return;
      case 'new code':
        if (link.room?.booth === link) this.renew(link.room, false);
        return;
      case 'close':
        if (link.room?.booth === link) this.end(link.room);
        return;
      case 'put out': {
        const { room } = link;
        const device = room?.booth === link ? room.devices.get(message.device) : undefined;
        if (room && device) this.putOut(room, device, 'put out');
      }
    }
  }

  private open(link: Link, token: string | null): void {
    if (!link.peer.here) return link.refuse('elsewhere');
    if (link.room) return link.refuse('no message');
    let room = token === null ? undefined : this.rooms.get(token);
    if (!room) {
      if (this.rooms.size >= STAGE_LIMITS.booths) return link.refuse('too many booths');
      room = {
        ...{ token: newToken(), booth: null, devices: new Map(), away: null },
        ...this.newCode(),
      };
      this.rooms.set(room.token, room);
    }
    const before = room.booth;
    if (before) {
      before.room = null;
      before.refuse('taken');
    }
    if (room.away) clearTimeout(room.away);
    room.away = null;
    room.booth = link;
    link.room = room;
    link.say({
      kind: 'opened',
      token: room.token,
      code: room.code,
      forS: this.heldFor(room),
      addresses: [...this.addresses],
      devices: [...room.devices.values()].map(toldOf),
    });
    for (const device of room.devices.values()) device.link?.say({ kind: 'booth', here: true });
  }

  private heldFor = ({ codeUntil }: Room): number => Math.max(0, (codeUntil - Date.now()) / 1000);

  private newCode(): { code: string; codeUntil: number } {
    const taken = new Set([...this.rooms.values()].map(({ code }) => code));
    let code: string;
    do code = String(randomInt(0, 1_000_000)).padStart(6, '0');
    while (taken.has(code));
    return { code, codeUntil: Date.now() + STAGE_LIMITS.codeS * 1000 };
  }

  private renew(room: Room, tried: boolean): void {
    Object.assign(room, this.newCode());
    room.booth?.say({ kind: 'code', code: room.code, forS: this.heldFor(room), tried });
  }

  /** Counts a wrong code; many of them make every code useless that somebody may be looking for. */
  private wrong(address: string): void {
    const now = Date.now();
    const known = this.tries.get(address);
    const count = known && known.until > now ? known.count + 1 : 1;
    this.tries.set(address, { count, until: now + STAGE_LIMITS.waitS * 1000 });
    this.wrongCodes += 1;
    if (this.wrongCodes < STAGE_LIMITS.triesOfAll) return;
    this.wrongCodes = 0;
    for (const room of this.rooms.values()) this.renew(room, true);
  }

  private join(link: Link, code: string, name: string): void {
    if (link.room) return link.refuse('no message');
    const { address } = link.peer;
    const tried = this.tries.get(address);
    if (tried && tried.until > Date.now() && tried.count >= STAGE_LIMITS.tries) {
      return link.say({ kind: 'refused', why: 'wait' });
    }
    const room = [...this.rooms.values()].find(
      (one) => one.code === code && one.codeUntil > Date.now(),
    );
    if (!room) {
      this.wrong(address);
      return link.say({ kind: 'refused', why: 'wrong code' });
    }
    if (room.devices.size >= STAGE_LIMITS.devices) {
      const away = [...room.devices.values()].find((one) => !one.link);
      if (!away) return link.say({ kind: 'refused', why: 'full' });
      this.putOut(room, away, 'full');
    }
    this.tries.delete(address);
    const names = new Set([...room.devices.values()].map((one) => one.name));
    let own = name;
    for (let i = 2; names.has(own); i++) own = `${name.slice(0, STAGE_LIMITS.name - 4)} ${i}`;
    const device: Device = {
      ...{ id: newToken().slice(0, 12), name: own, token: newToken(), link: null, away: null },
      since: new Date().toISOString(),
    };
    room.devices.set(device.id, device);
    this.arrive(link, room, device);
  }

  private back(link: Link, token: string): void {
    if (link.room) return link.refuse('no message');
    for (const room of this.rooms.values()) {
      for (const device of room.devices.values()) {
        if (device.token !== token) continue;
        const before = device.link;
        if (before) {
          before.room = before.device = null;
          before.refuse('taken');
        }
        return this.arrive(link, room, device);
      }
    }
    link.refuse('gone');
  }

  private arrive(link: Link, room: Room, device: Device): void {
    if (device.away) clearTimeout(device.away);
    device.away = null;
    device.link = link;
    device.since = new Date().toISOString();
    link.room = room;
    link.device = device;
    const { id, token } = device;
    link.say({ kind: 'joined', token, device: id, booth: room.booth !== null });
    this.tellBooth(room);
  }

  private tellBooth(room: Room): void {
    room.booth?.say({ kind: 'devices', devices: [...room.devices.values()].map(toldOf) });
  }

  private pass(link: Link, { device, wire }: Extract<ToServer, { kind: 'pass' }>): void {
    const { room } = link;
    if (!room) return link.refuse('no message');
    if (room.booth === link) {
      room.devices.get(device)?.link?.say({ kind: 'passed', device, wire });
    } else if (link.device) {
      // Whatever it says: it is the device that it is.
      room.booth?.say({ kind: 'passed', device: link.device.id, wire });
    }
  }

  private putOut(room: Room, device: Device, why: Refusal | null): void {
    if (device.away) clearTimeout(device.away);
    room.devices.delete(device.id);
    const { link } = device;
    device.link = null;
    if (link) {
      link.room = link.device = null;
      if (why) link.refuse(why);
      else link.socket.close(NORMAL);
    }
    this.tellBooth(room);
  }

  private gone(link: Link): void {
    this.links.delete(link);
    const { room, device } = link;
    if (!room) return;
    link.room = null;
    if (room.booth === link) {
      room.booth = null;
      for (const one of room.devices.values()) one.link?.say({ kind: 'booth', here: false });
      room.away = setTimeout(() => this.end(room), STAGE_LIMITS.awayS * 1000);
      room.away.unref();
      return;
    }
    if (device?.link !== link) return;
    device.link = null;
    device.since = new Date().toISOString();
    device.away = setTimeout(
      () => this.putOut(room, device, null),
      STAGE_LIMITS.deviceAwayS * 1000,
    );
    device.away.unref();
    this.tellBooth(room);
  }

  private end(room: Room): void {
    if (room.away) clearTimeout(room.away);
    this.rooms.delete(room.token);
    for (const device of [...room.devices.values()]) this.putOut(room, device, 'gone');
    const { booth } = room;
    room.booth = null;
    if (!booth) return;
    booth.room = null;
    booth.socket.close(NORMAL);
  }
}
