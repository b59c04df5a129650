import {
  fromServer,
  readWire,
  STAGE_SOCKET,
  STAGE_STATE,
  type FromServer,
  type ToServer,
} from '../../core/stage';

/** One page's link to the server: made again whenever it is lost, until it is given up. */

/** Longer than this nothing is tried again, ms. */
const [FIRST_WAIT_MS, MOST_WAIT_MS] = [300, 5000];
const PING_MS = 4000;
/** A link over which nothing was heard for so long is no link, whatever the browser says of it. */
const SILENT_MS = 10_000;

interface LinkEnds {
  /** what is said first whenever the link is up */
  hello: () => ToServer;
  hear: (message: FromServer) => void;
  /** whether it is up */
  changed: (up: boolean) => void;
}

export interface StageLink {
  /** false where it is down: nothing is kept for later */
  say(message: ToServer): boolean;
  /** ends it for good */
  end(): void;
  /** tries now what would be tried later */
  hurry(): void;
}

const socketUrl = (): string =>
  `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${STAGE_SOCKET}`;

/** Whether the server that the page came from has a stage; null where it cannot be asked or does not say. */
export async function hasStage(): Promise<boolean | null> {
  try {
    const answer = await fetch(STAGE_STATE, { cache: 'no-store' });
    const said = (await answer.json()) as { stage?: unknown };
    return said.stage === true;
  } catch {
    return null;
  }
}

/** Begins to link, and goes on. */
export function stageLink({ hello, hear, changed }: LinkEnds): StageLink {
  let socket: WebSocket | null = null;
  let up = false;
  let ended = false;
  let wait = FIRST_WAIT_MS;
  let later: ReturnType<typeof setTimeout> | undefined;
  let heardAt = 0;

  const say = (message: ToServer): boolean => {
    if (!up || !socket) return false;
    socket.send(JSON.stringify(message));
    return true;
  };
  const drop = (): void => {
    const old = socket;
    socket = null;
    if (old) {
      old.onopen = old.onmessage = old.onclose = null;
      old.close();
    }
    if (up) {
      up = false;
      changed(false);
    }
  };
  const again = (): void => {
    drop();
    if (ended) return;
    clearTimeout(later);
    later = setTimeout(begin, wait);
    wait = Math.min(MOST_WAIT_MS, wait * 2);
  };
  function begin(): void {
    clearTimeout(later);
    drop();
    if (ended) return;
    heardAt = performance.now();
    const mine = new WebSocket(socketUrl());
    socket = mine;
    mine.onopen = () => {
      up = true;
      wait = FIRST_WAIT_MS;
      heardAt = performance.now();
      say(hello());
      changed(true);
    };
    mine.onclose = again;
    mine.onmessage = ({ data }) => {
      heardAt = performance.now();
      const message = typeof data === 'string' ? readWire(fromServer, data) : null;
      if (message && message.kind !== 'pong') hear(message);
    };
  }
  const beat = setInterval(() => {
    if (!socket) return;
    if (performance.now() - heardAt > SILENT_MS) again();
    else say({ kind: 'ping' });
  }, PING_MS);
  const hurry = (): void => {
    if (document.visibilityState === 'hidden') return;
    if (!socket) begin();
    // After a sleep the link may be dead without a word: what is not answered soon is made anew.
    else if (performance.now() - heardAt > PING_MS + 1000) again();
  };
  document.addEventListener('visibilitychange', hurry);
  addEventListener('online', hurry);
  begin();
  return {
    say,
    hurry,
    end() {
      ended = true;
      clearInterval(beat);
      clearTimeout(later);
      document.removeEventListener('visibilitychange', hurry);
      removeEventListener('online', hurry);
      drop();
    },
  };
}
