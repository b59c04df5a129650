import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../session/create';
import type { Session } from '../session/schema';
import { outlineOf } from '../units/outlines';
import { isNotDirect, shadowedAt } from './shadows';

const main = {
  id: 'main',
  name: 'Main',
  role: 'main',
  x: 0,
  y: -2,
  z: 2.5,
  technique: { kind: 'single', pattern: 'omni' },
};

function hiddenIn(session: Session): ReturnType<typeof shadowedAt> {
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  return shadowedAt(session, array, session.sources);
}

describe('what stands between', () => {
  it('a balcony’s front, an organ case and a corner hide who is behind them', () => {
    const venue = {
      ...{ widthM: 20, depthM: 20, heightM: 9, origin: { x: 6, y: 6 } },
      shape: { corners: outlineOf('L', 20, 20) },
      stage: { widthM: 8, depthM: 4 },
    };
    const behind = (x: number, y: number, more: object = {}): Session =>
      sessionFrom({
        venue: { ...venue, ...more },
        arrays: [main],
        sources: [{ id: 's', name: 'Viol', kind: 'viol', x, y, z: 1.2 }],
      });
    // The L's corner is 12 m right and 10 m up from its own corner: at 6, 4 on the plan.
    const [round] = hiddenIn(behind(13, 6));
    expect(round?.by).toEqual(['the corner of the hall (corner 3)']);
    expect(round && isNotDirect(round)).toBe(true);
    expect(hiddenIn(behind(2, 3))).toEqual([]);
    const organ = { id: 'o', name: 'Organ', kind: 'organ case', x: 0, y: 2, widthM: 4, depthM: 1 };
    const [pipes] = hiddenIn(behind(0, 4, { obstacles: [{ ...organ, heightM: 6 }] }));
    expect(pipes?.by).toEqual(['the organ']);
    expect(pipes && isNotDirect(pipes)).toBe(true);
    const balcony = { ...organ, kind: 'balcony', name: 'Gallery', baseM: 1.5, heightM: 1 };
    expect(hiddenIn(behind(0, 4, { obstacles: [balcony] }))[0]?.by).toEqual(['the gallery']);
  });

  it('an open lid hides its strings from who stands behind it, and not from the front', () => {
    const piano = (x: number, z: number): Session =>
      sessionFrom({
        arrays: [{ ...main, x, y: 0.1, z }],
        sources: [
          {
            ...{ id: 'p', name: 'Piano', kind: 'grand piano', x: 0, y: 0, z: 1, facingDeg: 0 },
            ...{ widthM: 1.5, depthM: 2, lid: 'full-stick' },
          },
        ],
      });
    expect(hiddenIn(piano(3, 1.6))).toEqual([]);
    const [behind] = hiddenIn(piano(-3, 1.6));
    expect(behind?.by).toEqual(['the lid of Piano']);
    expect(behind?.octaves?.[6]?.db).toBeGreaterThan(10);
  });
});
