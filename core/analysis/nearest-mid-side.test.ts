import { describe, expect, it } from 'vitest';
import type { SessionTechnique } from '../session';
import { modelById } from '../localisation';
import { nearestMidSide } from '.';

const pair = (
  pattern: 'cardioid' | 'omni',
  spacingM: number,
  includedAngleDeg: number,
): { technique: SessionTechnique } => ({
  technique: { kind: 'pair', pattern, spacingM, includedAngleDeg },
});

describe('the nearest mid-side', () => {
  it('has the recording angle of the pair, with a cardioid mid where that can be', () => {
    for (const array of [pair('cardioid', 0.17, 110), pair('cardioid', 0.3, 90)]) {
      const { technique, wantedDeg, halfDeg } = nearestMidSide(array, modelById('consensus'), 343);
      expect(technique.midPattern).toBe('cardioid');
      expect(Math.abs((halfDeg ?? 0) - (wantedDeg ?? 0))).toBeLessThan(1.5);
    }
  });

  it('takes more side for a narrower recording angle', () => {
    const side = (spacing: number) =>
      nearestMidSide(pair('cardioid', spacing, 110), modelById('consensus'), 343).technique
        .sideGainDb;
    expect(side(0.3)).toBeGreaterThan(side(0.17));
  });

  it('says where the pair never reaches a loudspeaker', () => {
    const { wantedDeg, technique } = nearestMidSide(
      pair('omni', 0.1, 0),
      modelById('consensus'),
      343,
    );
    expect(wantedDeg).toBeNull();
    expect(technique.kind).toBe('mid-side');
  });
});
