import type { Session } from '../session';
import { take } from '../session/schema-journals';
import { choirDemo } from './choir';
import { keyboardDemo } from './keyboard';
import { nonetDemo } from './nonet';

export { DEMO_ID, demoSession } from './plain-nonet';

/** Takes that nobody played: made of the plan when they are opened first. */
const simulated = (now: string): Session['takes'] =>
  ['claps', 'chorale'].map((phrase, i) =>
    take.parse({
      id: `simulated-${phrase}`,
      at: now,
      number: i + 1,
      name: `Simulated: ${phrase}`,
      simulation: { seed: 1, phrase, sampleRateHz: 48_000 },
    }),
  );

/** Demo sessions of different kinds; the first is the one that the demo opens. */
export function demoSessions(now: string): Session[] {
  return [nonetDemo(now), choirDemo(now), keyboardDemo(now)].map((demo) => ({
    ...demo,
    takes: simulated(now),
  }));
}
