// What a page does with many sessions in the browser's database, by the page's own means: built into one
// script and run in a browser.
import { demoSession } from '../core/demo';
import { newSession, type Session } from '../core/session';
import { takeInBlob } from '../app/keeping/blobs';
import {
  addSession,
  listSessions,
  loadSession,
  saveSession,
  tidyBlobs,
} from '../app/keeping/storage';

/** Entries of a session that were said lately. */
const LATELY = 25;
const NOW = '2026-11-30T12:00:00.000Z';

const logged = (session: Session, count: number): Session => ({
  ...session,
  log: [
    ...session.log,
    ...Array.from({ length: count }, (_, i) => ({
      id: `l-${session.log.length + i}`,
      at: NOW,
      by: '',
      kind: 'note',
      text: `Said at ${i}: the second oboe a hand to the left, and again.`,
      strikes: '',
      amends: '',
    })),
  ] as Session['log'],
});

async function timed(work: () => Promise<unknown>): Promise<number> {
  const from = performance.now();
  await work();
  return performance.now() - from;
}

const demo = demoSession(NOW);

const bench = {
  /** Fills the database. */
  async fill(sessions: number, entries: number, largest: number) {
    for (let i = 0; i < sessions; i++) {
      const session = i % 3 === 0 ? newSession(`s-${i}`, `Session ${i}`, NOW) : demo;
      const count = i === 0 ? largest : Math.round((entries - largest) / (sessions - 1));
      const content = new Blob([`a picture ${i}`], { type: 'image/png' });
      const picture = await takeInBlob(content);
      const made = { ...session, id: `s-${i}`, title: `Session ${i}`, blobs: [picture] };
      const most = logged(made, count - LATELY);
      await addSession(most);
      // The latest are records of their own.
      await saveSession(logged(most, LATELY), 1);
    }
  },
  list: () => timed(listSessions),
  open: (id: string) => timed(() => loadSession(id)),
  /** One entry more, as it is stored. */
  async append(id: string) {
    const loaded = await loadSession(id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    let { session, revision } = loaded;
    const runs: number[] = [];
    for (let i = 0; i < 20; i++) {
      session = logged(session, 1);
      runs.push(
        await timed(async () => {
          const saved = await saveSession(session, revision);
          if (saved.kind !== 'saved') throw new Error(saved.kind);
          revision = saved.revision;
        }),
      );
    }
    return runs;
  },
  /** A sweep an hour later, and how long the page was held up at once meanwhile. */
  async sweep() {
    let longest = 0;
    const watch = new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) longest = Math.max(longest, duration);
    });
    watch.observe({ type: 'longtask' });
    const took = await timed(() => tidyBlobs(Date.now() + 4_000_000));
    await new Promise((resolve) => setTimeout(resolve, 100));
    return { took, longest };
  },
};

Object.assign(globalThis, { bench });
