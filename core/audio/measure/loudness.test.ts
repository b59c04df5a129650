import { describe, expect, it } from 'vitest';
import { LoudnessMeter, channelWeights } from './loudness';

/** The signals that the loudness standard is tried with: tones of 1 kHz, dBFS and s, in order. */
type Steps = readonly (readonly [db: number, seconds: number])[];

const BLOCK = 4800;

/** @param gainsDb by channel, against the steps; −Infinity for silence */
function measured(rate: number, steps: Steps, gainsDb = [0, 0], weights = gainsDb.map(() => 1)) {
  const meter = new LoudnessMeter(weights, rate);
  const planes = gainsDb.map(() => new Float32Array(BLOCK));
  let at = 0;
  for (const [db, seconds] of steps) {
    const amplitude = 10 ** (db / 20);
    for (let left = Math.round(seconds * rate); left > 0; left -= BLOCK) {
      const frames = Math.min(BLOCK, left);
      planes.forEach((plane, c) => {
        const gain = amplitude * 10 ** ((gainsDb[c] ?? 0) / 20);
        for (let i = 0; i < frames; i++) {
          plane[i] = gain * Math.sin((2 * Math.PI * 1000 * (at + i)) / rate);
        }
      });
      meter.add(planes, frames);
      at += frames;
    }
  }
  return meter.result();
}

const INTEGRATED: readonly (readonly [string, Steps])[] = [
  ['a tone of −23', [[-23, 20]]],
  [
    'quiet before and behind',
    [
      [-36, 10],
      [-23, 60],
      [-36, 10],
    ],
  ],
  [
    'under both gates before and behind',
    [
      [-72, 10],
      [-36, 10],
      [-23, 60],
      [-36, 10],
      [-72, 10],
    ],
  ],
  [
    'loud in the middle',
    [
      [-26, 20],
      [-20, 20.1],
      [-26, 20],
    ],
  ],
];

const RANGES: readonly (readonly [number, Steps])[] = [
  [
    10,
    [
      [-20, 20],
      [-30, 20],
    ],
  ],
  [
    5,
    [
      [-20, 20],
      [-15, 20],
    ],
  ],
  [
    20,
    [
      [-40, 20],
      [-20, 20],
    ],
  ],
  [
    15,
    [
      [-50, 20],
      [-35, 20],
      [-20, 20],
      [-35, 20],
      [-50, 20],
    ],
  ],
];

// EBU Tech 3341, table 1, and 3342, table 1: within 0.1 LU, ranges within 1 LU.
describe.each([44_100, 48_000, 96_000])('the standard’s signals at %i Hz', (rate) => {
  it.each(INTEGRATED)('%s is −23 LUFS', (_name, steps) => {
    expect(Math.abs((measured(rate, steps).integrated ?? 0) + 23)).toBeLessThan(0.1);
  });

  it.each(RANGES)('have a range of %i LU', (range, steps) => {
    expect(Math.abs((measured(rate, steps).range ?? 0) - range)).toBeLessThan(1);
  });

  it('in five channels and one of low effects are −23 LUFS, by names or by the mask', () => {
    const gains = [-28, -28, -24, -10, -30, -30];
    for (const [names, mask] of [
      [['L', 'R', 'C', 'LFE', 'Ls', 'Rs'], null],
      [['', '', '', '', '', ''], 0x3f],
      [['', '', '', '', '', ''], 0x60f],
    ] as const) {
      const weights = channelWeights(names, mask);
      const { integrated } = measured(rate, [[0, 20]], gains, weights);
      expect(Math.abs((integrated ?? 0) + 23)).toBeLessThan(0.1);
    }
  });

  it('are as loud for a moment and for a while, wherever those begin', () => {
    for (const before of [0.005, 0.0537, 0.251]) {
      const moment = measured(rate, [
        [-60, before],
        [-23, 0.4],
        [-60, 1],
      ]);
      expect(Math.abs((moment.momentaryMax ?? 0) + 23)).toBeLessThan(0.1);
      const while3 = measured(rate, [
        [-60, before],
        [-23, 3],
        [-60, 1],
      ]);
      expect(Math.abs((while3.shortTermMax ?? 0) + 23)).toBeLessThan(0.1);
    }
  });
});
