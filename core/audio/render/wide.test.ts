import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom } from '../../session';
import { PHRASE_NAMES, PHRASE_S } from '../players/score';
import { planTake } from './plan';
import { renderBlocks } from './take';

const RATE = 16_000;

/** Level of one player, 4 m before a coincident pair, in its left and its right channel, dB. */
async function levelsOf(kind: string, widthM: number, phrase: (typeof PHRASE_NAMES)[number]) {
  const session = sessionFrom({
    id: 'wide',
    sources: [
      newSource({ id: 'p', name: 'Player', kind, x: 0, y: 4, z: 1.5, widthM, facingDeg: 180 }),
    ],
    arrays: [
      newArray({
        id: 'm',
        x: 0,
        y: 0,
        z: 1.5,
        aimDeg: 0,
        tiltDeg: 0,
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0, includedAngleDeg: 90 },
      }),
    ],
  });
  const plan = planTake(session, { sampleRateHz: RATE, seconds: PHRASE_S, dry: true, phrase });
  if (!plan.ok) throw new Error(plan.message);
  const energies = [0, 0];
  for await (const { planes, frames } of renderBlocks(plan.value)) {
    planes.forEach((plane, c) => {
      for (let i = 0; i < frames; i++) energies[c] = (energies[c] ?? 0) + (plane[i] ?? 0) ** 2;
    });
  }
  const [left = 0, right = 0] = energies.map((energy) => 10 * Math.log10(energy));
  const both = 10 * Math.log10((energies[0] ?? 0) + (energies[1] ?? 0)) + plan.value.fullScaleDb;
  return { both, aside: left - right };
}

describe.each(PHRASE_NAMES)('whatever is played: %s', (phrase) => {
  it.each(['grand piano', 'harpsichord', 'harp', 'chamber organ'])(
    'a wide %s is as loud as a narrow one, in the middle',
    async (kind) => {
      const narrow = await levelsOf(kind, 0, phrase);
      for (const widthM of [0.9, 1.5, 2.7]) {
        const wide = await levelsOf(kind, widthM, phrase);
        expect(Math.abs(wide.aside), `${widthM} m aside`).toBeLessThan(0.6);
        expect(Math.abs(wide.both - narrow.both), `${widthM} m level`).toBeLessThan(0.6);
      }
    },
  );
});
