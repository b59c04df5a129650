import { applyPatches, enablePatches, type Patch } from 'immer';
import { createStore } from 'zustand/vanilla';
import {
  boothSays,
  Channel,
  stageDocument,
  type FromServer,
  type Refusal,
  type StageDocument,
  type StageSays,
} from '../../core/stage';
import { newId } from '../document/new-id';
import { hasStage, stageLink, type StageLink } from './link';

/**
 * A device in the hall: what the booth shows, and what is said here. It has nothing of the session but
 * what it was shown, and keeps that for as long as its page lives.
 */

enablePatches();

/** What is said here, before it has its id. */
type Without<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;
type Told = Exclude<StageSays, { kind: 'begin' }>;
export type Say = Without<Told, 'id'>;

interface Device {
  phase: 'asking' | 'no stage' | 'code' | 'joining' | 'on' | 'over';
  why: Refusal | null;
  name: string;
  /** whether the link to the server is up, and the booth there */
  up: boolean;
  booth: boolean;
  document: StageDocument | null;
  /** what was said and is not known to be in the log */
  pending: readonly Told[];
  /** how much of the first of it has arrived, 0 … 1 */
  arrived: number;
  /** what the booth did not take, and why */
  refused: readonly { id: string; why: string }[];
}

const NOBODY: Device = {
  ...{ phase: 'asking', why: null, name: '', up: false, booth: false, document: null },
  ...{ pending: [], arrived: 1, refused: [] },
};
export const deviceStore = createStore<Device>(() => NOBODY);

const LIFE = newId().slice(0, 20);
const KEPT = 'rotunda-stage';

interface Kept {
  token: string;
  name: string;
  pending: readonly Told[];
}

function kept(): Kept | null {
  try {
    const found = JSON.parse(sessionStorage.getItem(KEPT) ?? '') as Kept;
    return typeof found.token === 'string' ? found : null;
  } catch {
    return null;
  }
}

const running: {
  link: StageLink | null;
  channel: Channel | null;
  id: string;
  token: string | null;
  code: string;
} = { link: null, channel: null, id: '', token: null, code: '' };

function keep(): void {
  if (running.token === null) return;
  const { name, pending } = deviceStore.getState();
  const write = (what: readonly Told[]): void =>
    sessionStorage.setItem(
      KEPT,
      JSON.stringify({ token: running.token ?? '', name, pending: what } satisfies Kept),
    );
  try {
    write(pending);
  } catch {
    // A photograph more than the browser keeps for a page: it is said from memory.
    write(pending.filter(({ kind }) => kind !== 'photograph'));
  }
}

const changed = (change: Partial<Device>): void => {
  deviceStore.setState(change);
  if (change.pending) keep();
};

/** Every patch fits what it was made on, or the whole is asked for again. */
function patched(patches: readonly unknown[]): void {
  const { document } = deviceStore.getState();
  if (!document) return;
  try {
    const next: unknown = applyPatches(document, patches as Patch[]);
    const read = stageDocument.safeParse(next);
    if (!read.success) throw new TypeError('no document');
    changed({ document: next as StageDocument });
  } catch {
    running.channel?.say({ kind: 'begin' });
  }
}

function heard(raw: unknown): void {
  const parsed = boothSays.safeParse(raw);
  if (!parsed.success) return;
  const said = parsed.data;
  if (said.kind === 'document') return changed({ document: said.document });
  if (said.kind === 'patches') return patched(said.patches);
  const { id, why } = said;
  const { pending, refused } = deviceStore.getState();
  changed({
    pending: pending.filter((one) => one.id !== id),
    ...(why !== null && { refused: [...refused, { id, why }] }),
  });
}

function talk(): Channel {
  const channel = new Channel({
    life: LIFE,
    send: (wire) => void running.link?.say({ kind: 'pass', device: running.id, wire }),
    heard,
    changed: () => deviceStore.setState({ arrived: channel.arrived }),
  });
  channel.say({ kind: 'begin' });
  // What was said before this page was loaded anew and not known to be in the log: said again.
  for (const one of deviceStore.getState().pending) channel.say(one);
  return channel;
}

function over(why: Refusal | null): void {
  running.link?.end();
  running.link = null;
  running.channel = null;
  running.token = null;
  sessionStorage.removeItem(KEPT);
  deviceStore.setState({ phase: 'over', why, up: false, booth: false });
}

function hear(message: FromServer): void {
  switch (message.kind) {
    case 'joined':
      running.token = message.token;
      running.id = message.device;
      running.channel ??= talk();
      changed({ phase: 'on', why: null, booth: message.booth });
      keep();
      if (message.booth) running.channel.link();
      return;
    case 'booth':
      changed({ booth: message.here });
      if (message.here) running.channel?.link();
      return;
    case 'passed':
      running.channel?.hear(message.wire);
      return;
    case 'refused': {
      const again = ['wrong code', 'wait', 'full'].includes(message.why);
      if (!again) return over(message.why);
      running.link?.end();
      running.link = null;
      changed({ phase: 'code', why: message.why });
    }
  }
}

function link(): void {
  running.link?.end();
  running.link = stageLink({
    hello: () =>
      running.token === null
        ? { kind: 'join', code: running.code, name: deviceStore.getState().name }
        : { kind: 'back', token: running.token },
    hear,
    changed: (up) => changed({ up }),
  });
}

/** Looks whether there is a stage, and goes on with what this page was on before it was loaded anew. */
export async function beginDevice(): Promise<void> {
  const known = kept();
  if (known) {
    running.token = known.token;
    const pending = Array.isArray(known.pending) ? known.pending : [];
    deviceStore.setState({ ...NOBODY, phase: 'joining', name: known.name, pending });
    return link();
  }
  const has = await hasStage();
  // Where it could not be asked, the link says it.
  deviceStore.setState({ ...NOBODY, phase: has === false ? 'no stage' : 'code' });
}

/** Asks to be let in. */
export function join(code: string, name: string): void {
  running.code = code;
  running.token = null;
  changed({ phase: 'joining', why: null, name });
  link();
}

/** Leaves the stage for good. */
export function leave(): void {
  running.link?.say({ kind: 'leave' });
  over(null);
}

/** Begins anew, with another code. */
export const startOver = (): void => deviceStore.setState({ ...NOBODY, phase: 'code' });

/** Says something to the booth: now, or as soon as it can be heard. @returns its id */
export function say(what: Say): string {
  const id = newId();
  const told: Told = { ...what, id };
  changed({ pending: [...deviceStore.getState().pending, told] });
  running.channel?.say(told);
  return id;
}

export const forget = (id: string): void =>
  deviceStore.setState(({ refused }) => ({ refused: refused.filter((one) => one.id !== id) }));
