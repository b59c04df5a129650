import { describe, expect, it } from 'vitest';
import { newArray, newSession, newSource } from '../session';
import { speedOfSound } from '../units';
import { analyseSession } from './analyse';
import { reachMatrix } from './reach-matrix';
import { seatRows } from './seat-table';

function circle() {
  const session = newSession('s', 'Circle', '');
  session.sources = [0, 60, 90, 180, 270].map((deg) =>
    newSource({
      id: `at${deg}`,
      x: 2 * Math.sin((deg * Math.PI) / 180),
      y: 2 * Math.cos((deg * Math.PI) / 180),
      z: 1.2,
      levelDb: 80,
    }),
  );
  session.arrays = [
    newArray({
      id: 'b',
      name: 'Crossed eights',
      z: 1.2,
      technique: {
        kind: 'pair',
        pattern: 'figure-eight',
        spacingM: 0,
        includedAngleDeg: 90,
      },
    }),
  ];
  return session;
}

describe('a circle seat by seat', () => {
  const session = circle();
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  const rows = new Map(seatRows(session, array, session.sources).map((row) => [row.sourceId, row]));

  it('says both channels, their polarity and what mono leaves', () => {
    expect(rows.get('at0')).toMatchObject({ polarity: 'same', icldDb: 0, ictdMs: 0 });
    // 80 dB at 1 m, twice as far, half way to the null.
    expect(rows.get('at0')?.leftDb).toBeCloseTo(80 - 6.02 - 3.01, 2);
    expect(rows.get('at0')?.rightDb).toBeCloseTo(80 - 6.02 - 3.01, 2);
    expect(rows.get('at60')).toMatchObject({ polarity: 'opposite', shift: null });
    expect(rows.get('at90')).toMatchObject({ polarity: 'opposite' });
    expect(rows.get('at90')?.monoDb ?? 0).toBeLessThan(-40);
    expect(rows.get('at180')).toMatchObject({ polarity: 'inverted' });
    expect(rows.get('at180')?.monoDb).toBeCloseTo(rows.get('at0')?.monoDb ?? NaN, 6);
  });

  it('agrees with the figures of the array', () => {
    const [figures] = analyseSession(session).arrays;
    for (const of of figures?.sources ?? []) {
      const row = rows.get(of.id);
      expect(row?.icldDb).toBe(of.icldDb);
      expect(row?.monoDb).toBe(of.mono?.sumDb ?? null);
      expect(row?.distanceM).toBe(of.distanceM);
    }
  });

  it('has nothing to say at a capsule', () => {
    const at = newSource({ id: 'at', x: 0, y: 0, z: 1.2 });
    expect(seatRows(session, array, [at])[0]).toMatchObject({ polarity: null, leftDb: null });
  });
});

describe('every piece at every microphone', () => {
  it('says how far, how late, how loud, and where it combs with the loudest', () => {
    const session = newSession('s', 'Two', '');
    const c = speedOfSound(session.venue.temperatureC);
    const single = { kind: 'single', pattern: 'omni' } as const;
    session.sources = [newSource({ id: 'p', x: 0, y: 0, z: 1, levelDb: 90 })];
    session.arrays = [
      newArray({ id: 'near', x: 1, y: 0, z: 1, technique: single }),
      newArray({ id: 'far', x: 1 + c / 1000, y: 0, z: 1, technique: single, enabled: false }),
      newArray({ id: 'in', x: 0, y: 0, z: 1, technique: single }),
    ];
    const { columns, rows } = reachMatrix(session, session.arrays, session.sources);
    expect(columns.map(({ arrayId }) => arrayId)).toEqual(['near', 'far', 'in']);
    const [near, far, inside] = rows[0]?.cells ?? [];
    expect(near).toMatchObject({ distanceM: 1, firstNullHz: null });
    expect(near?.levelDb).toBeCloseTo(90, 9);
    expect((far?.arrivalMs ?? 0) - (near?.arrivalMs ?? 0)).toBeCloseTo(1, 9);
    // 1 ms apart: they cancel first at half a period, 500 Hz.
    expect(far?.firstNullHz).toBeCloseTo(500, 6);
    expect(inside).toBeNull();
  });
});
