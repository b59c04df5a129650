import { createStore } from 'zustand/vanilla';
import {
  Channel,
  patchesBetween,
  stageSays,
  type FromServer,
  type Refusal,
  type StageDevice,
  type StageDocument,
  type Wire,
} from '../../core/stage';
import { stageDocument } from '../../paper/stage-document';
import type { Session } from '../../core/session';
import { newId } from '../document/new-id';
import { gestureHeld, sessionStore } from '../document/session-store';
import { notify } from '../view/notices';
import { hasStage, stageLink, type StageLink } from './link';
import { takeIn } from './take-in';

/**
 * The booth: what it shows the hall, and what the hall says. It lives as long as its session is open, on
 * whatever page one is; loaded anew it goes on where it was.
 */

export interface BoothDevice extends StageDevice {
  /** messages that it is not known to have */
  waiting: number;
}

interface Booth {
  /** missing: the server has no stage; lost: the link is being made again */
  state: 'closed' | 'asking' | 'missing' | 'opening' | 'open' | 'lost' | 'refused';
  why: Refusal | null;
  code: string;
  /** until when the code holds, on the clock of performance.now() */
  codeUntil: number;
  addresses: readonly string[];
  devices: readonly BoothDevice[];
  /** whether the stage may change the plan */
  mayEdit: boolean;
}

const CLOSED: Booth = {
  ...{ state: 'closed', why: null, code: '', codeUntil: 0, addresses: [], devices: [] },
  mayEdit: false,
};
export const boothStore = createStore<Booth>(() => CLOSED);

/** Which life of this page it is: what the other end knows of another one is forgotten there. */
const LIFE = newId().slice(0, 20);
const KEPT = 'rotunda-booth';
/** Edits that follow one another go out as one, ms. */
const GATHER_MS = 120;
/** So many messages that a device has not got: the others wait, and become one. */
const MOST_WAITING = 3;

interface Kept {
  token: string;
  session: string;
  mayEdit: boolean;
}

function kept(): Kept | null {
  try {
    const { token, session, mayEdit } = JSON.parse(sessionStorage.getItem(KEPT) ?? '') as Kept;
    return typeof token === 'string' && typeof session === 'string'
      ? { token, session, mayEdit: mayEdit === true }
      : null;
  } catch {
    return null;
  }
}

interface Talk {
  channel: Channel;
  /** what it will have seen once everything has arrived; null: nothing yet */
  shown: StageDocument | null;
}

const running: {
  link: StageLink | null;
  session: string;
  talks: Map<string, Talk>;
  gathering: ReturnType<typeof setTimeout> | undefined;
  leave: (() => void) | null;
  /** what the document took last, ms */
  costMs: number;
} = { link: null, session: '', talks: new Map(), gathering: undefined, leave: null, costMs: 0 };

const keep = (token: string): void =>
  sessionStorage.setItem(
    KEPT,
    JSON.stringify({
      ...{ token, session: running.session, mayEdit: boothStore.getState().mayEdit },
    } satisfies Kept),
  );

const withWaiting = (devices: readonly StageDevice[]): BoothDevice[] =>
  devices.map((device) => ({
    ...device,
    waiting: running.talks.get(device.id)?.channel.waiting ?? 0,
  }));

/** The document as one device sees it: what is asked of another one is not shown. */
function documentFor(whole: StageDocument, name: string): StageDocument {
  const asked = whole.asked.filter(({ to }) => to === '' || to === name);
  return asked.length === whole.asked.length ? whole : { ...whole, asked };
}

function documentNow(session: Session, mayEdit: boolean): StageDocument {
  const from = performance.now();
  const whole = stageDocument(session, mayEdit);
  running.costMs = performance.now() - from;
  return whole;
}

/** Shows every device what has changed. */
export function show(): void {
  clearTimeout(running.gathering);
  running.gathering = undefined;
  const { session } = sessionStore.getState();
  if (!session || session.id !== running.session) return;
  const { devices, mayEdit } = boothStore.getState();
  let whole: StageDocument | null = null;
  for (const { id, name } of devices) {
    const talk = running.talks.get(id);
    if (!talk?.shown || talk.channel.waiting > MOST_WAITING) continue;
    whole ??= documentNow(session, mayEdit);
    const now = documentFor(whole, name);
    const patches = patchesBetween(talk.shown, now);
    if (patches.length === 0) continue;
    talk.shown = now;
    talk.channel.say({ kind: 'patches', patches });
  }
}

/** Shown soon; not while a hand holds something, nor so often that a large plan holds the page up. */
function gather(): void {
  running.gathering ??= setTimeout(
    () => {
      running.gathering = undefined;
      if (gestureHeld()) gather();
      else show();
    },
    Math.max(GATHER_MS, 5 * running.costMs),
  );
}

function showWhole(id: string): void {
  const { session } = sessionStore.getState();
  const device = boothStore.getState().devices.find((one) => one.id === id);
  const talk = running.talks.get(id);
  if (!session || !device || !talk) return;
  talk.shown = documentFor(stageDocument(session, boothStore.getState().mayEdit), device.name);
  talk.channel.say({ kind: 'document', document: talk.shown });
}

async function heard(id: string, raw: unknown): Promise<void> {
  const parsed = stageSays.safeParse(raw);
  const talk = running.talks.get(id);
  const by = boothStore.getState().devices.find((one) => one.id === id)?.name ?? '';
  if (!talk || !parsed.success) return;
  const said = parsed.data;
  if (said.kind === 'begin') return showWhole(id);
  const why = await takeIn(said, by, boothStore.getState().mayEdit);
  // Only what is in the log or will never be is answered: of the rest it is said again.
  talk.channel.say({ kind: 'taken', id: said.id, why });
  show();
}

function talkWith(id: string, isKnown: boolean): Talk {
  const known = running.talks.get(id);
  if (known) return known;
  const channel = new Channel({
    life: LIFE,
    send: (wire: Wire) => void running.link?.say({ kind: 'pass', device: id, wire }),
    heard: (message) => void heard(id, message),
    changed: () => {
      boothStore.setState(({ devices }) => ({ devices: withWaiting(devices) }));
      if (channel.waiting <= MOST_WAITING) gather();
    },
  });
  const talk: Talk = { channel, shown: null };
  running.talks.set(id, talk);
  // It was there before this page was: it waits for no more than what it does not know yet.
  if (isKnown) setTimeout(() => showWhole(id));
  return talk;
}

function meet(devices: readonly StageDevice[], wereThere: boolean): void {
  const before = new Map(boothStore.getState().devices.map((one) => [one.id, one]));
  for (const device of devices) {
    const { channel } = talkWith(device.id, wereThere);
    const was = before.get(device.id);
    const returned = !was || !was.here || was.since !== device.since;
    if (device.here && (returned || wereThere)) channel.link();
    if (!was && !wereThere) notify(`${device.name} is on the stage.`);
  }
  const there = new Set(devices.map(({ id }) => id));
  for (const id of running.talks.keys()) if (!there.has(id)) running.talks.delete(id);
  boothStore.setState({ devices: withWaiting(devices) });
}

function hear(message: FromServer): void {
  switch (message.kind) {
    case 'opened': {
      const { token, code, forS, addresses, devices } = message;
      keep(token);
      boothStore.setState({
        ...{ state: 'open', why: null, code, addresses },
        codeUntil: performance.now() + forS * 1000,
      });
      // A link that was lost and is up again: what was on its way is said again.
      meet(devices, true);
      return;
    }
    case 'code':
      boothStore.setState({
        code: message.code,
        codeUntil: performance.now() + message.forS * 1000,
      });
      if (message.tried) notify('Many wrong codes were tried: the code was made anew.');
      return;
    case 'devices':
      return meet(message.devices, false);
    case 'passed':
      running.talks.get(message.device)?.channel.hear(message.wire);
      return;
    case 'refused':
      end();
      boothStore.setState({ ...CLOSED, state: 'refused', why: message.why });
  }
}

function end(): void {
  clearTimeout(running.gathering);
  running.gathering = undefined;
  running.leave?.();
  running.leave = null;
  running.link?.end();
  running.link = null;
  running.talks.clear();
}

function begin(session: string): void {
  end();
  running.session = session;
  const { mayEdit } = boothStore.getState();
  boothStore.setState({ ...CLOSED, mayEdit, state: 'opening' });
  const leave = sessionStore.subscribe(({ session: now }, { session: before }) => {
    if (now?.id === session) {
      if (now !== before) gather();
      return;
    }
    // The session is left: its devices wait, for as long as the server keeps the booth.
    end();
    boothStore.setState(CLOSED);
  });
  running.leave = leave;
  running.link = stageLink({
    hello: () => {
      const known = kept();
      return { kind: 'open', token: known?.session === session ? known.token : null };
    },
    hear,
    changed: (up) => {
      if (!up && running.link) boothStore.setState({ state: 'lost' });
    },
  });
}

/** Opens a booth for the open session, where the server has a stage. */
export async function openBooth(): Promise<void> {
  const session = sessionStore.getState().session?.id;
  if (session === undefined || running.link) return;
  boothStore.setState({ ...CLOSED, state: 'asking' });
  const has = await hasStage();
  if (sessionStore.getState().session?.id !== session || running.link) return;
  if (has !== true) {
    boothStore.setState({ ...CLOSED, state: 'missing' });
    return;
  }
  begin(session);
}

/** Goes on with the booth that this tab had for the session before it was loaded anew. */
export function resumeBooth(): void {
  const session = sessionStore.getState().session?.id ?? '';
  const known = kept();
  if (known?.session !== session || running.link) return;
  boothStore.setState({ mayEdit: known.mayEdit });
  begin(session);
}

/** Lets everybody go; nothing of it is left on the server. */
export function closeBooth(): void {
  running.link?.say({ kind: 'close' });
  sessionStorage.removeItem(KEPT);
  end();
  boothStore.setState(CLOSED);
}

export const newCode = (): void => void running.link?.say({ kind: 'new code' });
export const putOut = (device: string): void => void running.link?.say({ kind: 'put out', device });

export function letEdit(mayEdit: boolean): void {
  boothStore.setState({ mayEdit });
  const known = kept();
  if (known) sessionStorage.setItem(KEPT, JSON.stringify({ ...known, mayEdit }));
  show();
}
