import { expect, it } from 'vitest';
import { demoSessions } from '../../demo';
import type { Session } from '../../session';
import { PHRASE_NAMES } from '../players/score';
import type { RenderOptions } from './options';
import { planTake } from './plan';
import { renderBlocks } from './take';

const RATE = 16_000;
const SESSIONS = demoSessions('2026-11-26T10:00:00Z');

async function peakOf(session: Session, change: Partial<RenderOptions>) {
  const plan = planTake(session, { sampleRateHz: RATE, seconds: 8, ...change });
  if (!plan.ok) throw new Error(plan.message);
  let most = 0;
  for await (const { planes } of renderBlocks(plan.value)) {
    for (const plane of planes) for (const v of plane) most = Math.max(most, Math.abs(v));
  }
  return { peakDb: 20 * Math.log10(most), notes: plan.value.notes };
}

it.each(PHRASE_NAMES)(
  'no channel of a demo is full, and none is nearly empty: %s',
  async (phrase) => {
    for (const session of SESSIONS) {
      const { peakDb } = await peakOf(session, { phrase, seconds: 7.5 });
      expect(peakDb, session.title).toBeLessThan(-0.5);
      expect(peakDb, session.title).toBeGreaterThan(-20);
    }
  },
);

it('a microphone on a player is said, and full scale is never reached', async () => {
  const [demo] = SESSIONS;
  const [player] = demo?.sources ?? [];
  if (!demo || !player) throw new Error('a demo is expected');
  for (const kind of ['grand piano', 'violin', 'snare drum']) {
    for (const off of [0, 0.02, 0.06]) {
      const session: Session = {
        ...demo,
        sources: [{ ...player, kind, name: 'Somebody', widthM: 0, depthM: 0 }],
        arrays: demo.arrays.slice(0, 1).map((array) => ({
          ...array,
          x: player.x,
          y: player.y - off,
          z: player.z,
          technique: { kind: 'pair', pattern: 'omni', spacingM: 0, includedAngleDeg: 0 },
        })),
      };
      const { peakDb, notes } = await peakOf(session, { phrase: 'staccato' });
      expect(peakDb, `${kind} ${off}`).toBeLessThan(-0.5);
      const said = notes.some((note) =>
        /^a microphone stands where a player sounds .*Somebody.*: heard as from 5 cm$/.test(note),
      );
      expect(said).toBe(off < 0.05);
    }
  }
});
