import { describe, expect, it } from 'vitest';
import { blobSource, openSound, type Sound } from '../audio';
import { bestEngine, planTake, takeFile } from '../audio/render';
import { ledStretches, steadyDelay } from '../audio/measure/led';
import { newArray, newSource, type Session } from '../session';
import { demoSession } from '../demo';
import { leadsOf } from './leads';
import { takeAgainstPlan } from './take';

const demo = demoSession('2026-01-01T00:00:00Z');
const plan: Session = {
  ...demo,
  id: 'own',
  sections: [],
  sources: (
    [
      ['Viol', -2.2, 3],
      ['Tenor viol', -1.1, 3.6],
      ['Cornett', 0.2, 4],
      ['Sackbut', 1.2, 3.5],
    ] as const
  ).map(([name, x, y], i) =>
    newSource({ ...{ id: `p${i}`, name, kind: 'viola', x, y, z: 1.2 }, levelDb: 80 }),
  ),
  arrays: [
    newArray({
      ...{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2.8, tiltDeg: -15 },
      technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
    }),
  ],
};

/** Everybody of a few for eight seconds, of a rig that may be another one. */
async function played(playerIds: string[], rig = plan): Promise<Sound> {
  const engine = await bestEngine();
  const options = { take: 'music', phrase: 'scale', seconds: 8, playerIds, seed: 1 } as const;
  const take = planTake(rig, options, undefined, engine);
  if (!take.ok) throw new Error(take.message);
  const parts: BlobPart[] = [];
  for await (const part of takeFile(rig, take.value, { engine })) {
    parts.push(part as Uint8Array<ArrayBuffer>);
  }
  const opened = await openSound(blobSource(new Blob(parts)));
  if (!opened.ok) throw new Error(opened.message);
  return opened.value;
}

const told = (delayMs: number | null) =>
  delayMs === null
    ? null
    : {
        ...{ delayMs, levelDb: 0, polarity: 1 as const, certainty: 0.4 },
        ...{ verdict: 'certain' as const, orMs: null },
      };

describe('who leads', () => {
  it('is read where most steps agree, and not where others agree on another', () => {
    expect(steadyDelay([0.2, 0.21, 0.2, 0.19, null, 0.9].map(told))).toMatchObject({
      delayMs: 0.2,
      steps: 4,
    });
    expect(steadyDelay([0.2, 0.2, 0.2].map(told))).toBeNull();
    expect(steadyDelay([0.2, 0.2, 0.2, 0.2, 0, 0, 0].map(told))).toBeNull();
    expect(steadyDelay([])).toBeNull();
  });

  it('changes where the delay does', () => {
    const values = [...Array<number>(8).fill(0.2), ...Array<number>(8).fill(-0.3)].map(told);
    const found = ledStretches(values, 10, 0.4);
    expect(found.map(({ delayMs }) => delayMs)).toEqual([0.2, -0.3]);
    expect(found[0]?.fromS).toBe(10);
    expect(found[1]?.toS).toBeCloseTo(16.4, 6);
    expect(found[0]?.toS).toBeCloseTo(13.2, 0);
    expect(ledStretches([0.1, 0.4, -0.2, 0.3, 0, 0.25, -0.1].map(told), 0, 0.4)).toEqual([]);
  });

  it('of bowed strings without onsets is found, by name, and held against the plan', async () => {
    for (const [id, name] of [
      ['p1', 'Tenor viol'],
      ['p3', 'Sackbut'],
    ] as const) {
      const sound = await played([id]);
      const leads = await leadsOf(sound, plan, [1, 2]);
      expect(leads.length).toBeGreaterThan(0);
      expect(leads.map(({ place }) => place?.name)).toContain(name);
      const [lead] = leads.filter(({ place }) => place !== null);
      if (!lead?.place) throw new Error('nobody leads');
      const alone = [{ fromS: lead.fromS, toS: lead.toS, place: lead.place }];
      const against = { binding: [1, 2], alone, taped: false };
      const answer = await takeAgainstPlan(sound, plan, against);
      if (!answer.ok) throw new Error(answer.message);
      const [delay] = answer.value.figures.filter(({ what }) => what === 'delay');
      expect(delay?.agreement).toBe('agrees');
      expect(Math.abs((delay?.measured ?? 9) - (delay?.planned ?? 0))).toBeLessThan(0.03);
      // The room is in the level: nothing is said of it, nor of an image.
      expect(answer.value.figures.filter(({ what }) => what === 'level')).toEqual([]);
    }
    expect(await leadsOf(await played(['p0']), plan, [1])).toEqual([]);
  });
});
