import { describe, expect, it } from 'vitest';
import { imageZones, prepareArray } from '.';

const zones = (pattern: 'figure-eight' | 'cardioid' | 'omni', includedAngleDeg: number) =>
  imageZones(
    prepareArray({
      x: 0,
      y: 0,
      z: 0,
      aimDeg: 0,
      tiltDeg: 0,
      technique: { kind: 'pair', pattern, spacingM: 0, includedAngleDeg },
    }),
    343.2,
  );

describe('zones around an array', () => {
  it('are antiphase beside crossed figure-eights and reversed behind them', () => {
    expect(zones('figure-eight', 90)).toEqual([
      // From where the weaker channel comes within 18 dB of the other: tan 7.1° is an eighth.
      { kind: 'antiphase', fromDeg: 52, toDeg: 128 },
      { kind: 'reversed', fromDeg: 135, toDeg: 225 },
      { kind: 'antiphase', fromDeg: 232, toDeg: 308 },
    ]);
  });

  it('are none around cardioids and omnis', () => {
    expect(zones('cardioid', 110)).toEqual([]);
    expect(zones('omni', 0)).toEqual([]);
  });
});
