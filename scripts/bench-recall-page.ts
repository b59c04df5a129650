// Fills a browser's database with sessions and their marks, by the page's own means.
import { addSession } from '../app/keeping/storage';
import { manySessions } from '../core/recall/fixtures/large';

Object.assign(globalThis, {
  bench: {
    async fill(sessions: number, marks: number) {
      for (const session of manySessions(sessions, marks)) await addSession(session);
    },
  },
});
