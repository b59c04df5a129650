import { describe, expect, it } from 'vitest';
import { seededRandom } from '../units/random';
import { Channel } from './channel';
import { STAGE_LIMITS, wireSchema, type Wire } from './wire';

interface End {
  channel: Channel;
  heard: unknown[];
  out: Wire[];
}

function end(life: string, heard: unknown[] = []): End {
  const out: Wire[] = [];
  const channel = new Channel({
    life,
    send: (wire) => out.push(wireSchema.parse(wire)),
    heard: (message) => heard.push(message),
  });
  return { channel, heard, out };
}

/** Everything that is on the wire arrives. */
function run(a: End, b: End): void {
  while (a.out.length + b.out.length > 0) {
    const [fromA, fromB] = [a.out.splice(0), b.out.splice(0)];
    for (const wire of fromA) b.channel.hear(wire);
    for (const wire of fromB) a.channel.hear(wire);
  }
}

describe('a talk over a link that breaks', () => {
  it('brings whole messages in order, however long they are', () => {
    const [a, b] = [end('a'), end('b')];
    const long = 'x'.repeat(5 * STAGE_LIMITS.piece + 7);
    const said = [{ n: 1 }, long, null, ['three', 4]];
    for (const message of said) a.channel.say(message);
    // Nothing goes before the two have agreed where they are.
    expect(a.out).toEqual([]);
    a.channel.link();
    b.channel.link();
    run(a, b);
    expect(b.heard).toEqual(said);
    expect(a.channel.waiting).toBe(0);
    b.channel.say('back');
    run(a, b);
    expect(a.heard).toEqual(['back']);
  });

  it('says no more at once than is received, and how far it is', () => {
    const [a, b] = [end('a'), end('b')];
    a.channel.say('x'.repeat(20 * STAGE_LIMITS.piece));
    a.channel.link();
    for (const wire of a.out.splice(0)) b.channel.hear(wire);
    for (const wire of b.out.splice(0)) a.channel.hear(wire);
    expect(a.out.length).toBeLessThanOrEqual(6);
    const [first] = a.out.splice(0);
    if (first) b.channel.hear(first);
    for (const wire of b.out.splice(0)) a.channel.hear(wire);
    expect(a.channel.arrived).toBeCloseTo(1 / 21, 3);
  });

  it.each(Array.from({ length: 60 }, (_, i) => i))(
    'each message arrives once and in order over losses, cuts and repetitions (%i)',
    (seed) => {
      const random = seededRandom(seed);
      const [a, b] = [end('a'), end('b')];
      const said: [unknown[], unknown[]] = [[], []];
      let up = false;
      for (let step = 0; step < 300; step++) {
        const dice = random();
        if (dice < 0.05) {
          up = !up;
          // What is under way when the link is cut is gone.
          a.out.length = b.out.length = 0;
          if (up) {
            a.channel.link();
            b.channel.link();
          }
        } else if (dice < 0.3) {
          const [mine, list] = random() < 0.5 ? ([a, said[0]] as const) : ([b, said[1]] as const);
          const message = { step, text: 'y'.repeat(Math.floor(random() * 60_000)) };
          list.push(message);
          mine.channel.say(message);
          if (!up) mine.out.length = 0;
        } else if (up) {
          const [from, to] = random() < 0.5 ? [a, b] : [b, a];
          const wire = from.out.shift();
          if (wire) to.channel.hear(wire);
          // Some come twice.
          if (wire && random() < 0.1) to.channel.hear(wire);
        }
      }
      a.out.length = b.out.length = 0;
      a.channel.link();
      b.channel.link();
      run(a, b);
      expect(b.heard).toEqual(said[0]);
      expect(a.heard).toEqual(said[1]);
      expect(a.channel.waiting + b.channel.waiting).toBe(0);
    },
  );

  it('an end that was loaded anew hears again what it was not known to have, and nothing of half a message', () => {
    const [a, b] = [end('a'), end('b')];
    a.channel.link();
    run(a, b);
    a.channel.say('first');
    run(a, b);
    a.channel.say('x'.repeat(3 * STAGE_LIMITS.piece));
    a.channel.say('last');
    // One piece of the second arrives, then the other end is loaded anew.
    const [piece] = a.out.splice(0);
    if (piece) b.channel.hear(piece);
    b.out.length = 0;
    const anew = end('b2');
    a.channel.link();
    run(a, anew);
    expect(anew.heard).toEqual(['x'.repeat(3 * STAGE_LIMITS.piece), 'last']);
    // And one that says anew is heard from its beginning.
    const other = end('a2');
    other.channel.say('new life');
    other.channel.link();
    run(other, anew);
    expect(anew.heard.at(-1)).toBe('new life');
  });

  it('refuses what is longer than a message', () => {
    expect(() => end('a').channel.say('x'.repeat(STAGE_LIMITS.message))).toThrow(/allowed: up to/);
  });
});
