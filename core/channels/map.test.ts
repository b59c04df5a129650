import { describe, expect, it } from 'vitest';
import { fiveChannel } from '../arrays/layouts';
import { demoSessions } from '../demo';
import { gainPlan } from '../analysis';
import { shortages } from '../planning';
import { channelList, packList } from '../rig';
import { sessionFrom } from '../session';
import { channelMap, inputsOfArray } from './map';

const five = fiveChannel(0.4, 0.3, 0.6, 0.5, 'cardioid');
const session = sessionFrom({
  settings: { sampleRateHz: 48000 },
  sources: [{ y: 3 }],
  arrays: [
    { id: 'a', name: 'Main pair', role: 'main' },
    { id: 'x', name: 'Left out', enabled: false },
    {
      id: 'b',
      name: 'Mid-side',
      role: 'ambience',
      technique: { kind: 'mid-side', midPattern: 'omni', sidePositive: 'left' },
      mix: {
        capsules: [
          { pan: 0, gainDb: 1 },
          { pan: 0, gainDb: 2, polarity: -1, delayMs: 3 },
        ],
      },
    },
    {
      id: 'c',
      name: 'Oboe spot',
      role: 'spot',
      technique: { kind: 'single', pattern: 'cardioid' },
      mix: { capsules: [{ pan: 0.4, delayMs: 12.5 }] },
    },
    {
      id: 'd',
      name: 'Five',
      role: 'surround',
      technique: { kind: 'custom', capsules: five.capsules.map((capsule) => ({ ...capsule })) },
    },
  ],
});

describe('the map of channels', () => {
  const { inputs, strips, tracks } = channelMap(session);

  it('numbers one input a microphone, of the enabled arrays alone', () => {
    expect(inputs.map(({ number, name }) => [number, name]).slice(0, 5)).toEqual([
      [1, 'Main pair L'],
      [2, 'Main pair R'],
      [3, 'Mid-side M'],
      [4, 'Mid-side S'],
      [5, 'Oboe spot'],
    ]);
    expect(inputs).toHaveLength(5 + five.capsules.length);
    expect(inputs.map(({ number }) => number)).toEqual(inputs.map((_, i) => i + 1));
    expect(inputs.slice(5).map(({ loudspeaker }) => loudspeaker)).toEqual(
      five.capsules.map(({ label }) => label),
    );
    expect(inputs.slice(0, 5).every(({ loudspeaker }) => loudspeaker === null)).toBe(true);
  });

  it('gives the side of mid-side two strips on one input, the second against the first', () => {
    expect(strips.filter(({ input }) => input === 3 || input === 4)).toEqual([
      { input: 3, name: 'Mid-side M', pan: 0, gainDb: 1, polarity: 1, delayMs: 0 },
      { input: 4, name: 'Mid-side S+', pan: -1, gainDb: 2, polarity: -1, delayMs: 3 },
      { input: 4, name: 'Mid-side S−', pan: 1, gainDb: 2, polarity: 1, delayMs: 3 },
    ]);
    expect(strips.find(({ input }) => input === 5)).toMatchObject({ pan: 0.4, delayMs: 12.5 });
    expect(strips.slice(0, 2).map(({ pan }) => pan)).toEqual([-1, 1]);
  });

  it('records a pair on one stereo track, everything else on one each', () => {
    expect(tracks.slice(0, 4)).toEqual([
      { number: 1, name: 'Main pair', inputs: [1, 2] },
      { number: 2, name: 'Mid-side M', inputs: [3] },
      { number: 3, name: 'Mid-side S', inputs: [4] },
      { number: 4, name: 'Oboe spot', inputs: [5] },
    ]);
    expect(tracks.flatMap((track) => track.inputs)).toEqual(inputs.map(({ number }) => number));
  });

  it('is what planning, gain, list and packing count by', () => {
    for (const one of [session, ...demoSessions('2026-11-23T12:00:00.000Z')]) {
      const map = channelMap(one);
      const count = map.inputs.length;
      expect(shortages(one).find(({ what }) => what === 'channels')?.needed).toBe(count);
      expect(gainPlan(one).map(({ arrayId, label }) => `${arrayId} ${label}`)).toEqual(
        map.inputs.map(({ arrayId, label }) => `${arrayId} ${label}`),
      );
      const list = channelList(one);
      expect(list.map(({ number, name }) => [number, name])).toEqual(
        map.strips.map(({ input, name }) => [input, name]),
      );
      expect(list.filter(({ again }) => !again)).toHaveLength(count);
      const cables = packList(one).filter(({ what }) => what.startsWith('microphone cable'));
      expect(cables.reduce((sum, line) => sum + line.count, 0)).toBe(count);
      expect(
        one.arrays
          .filter(({ enabled }) => enabled)
          .reduce((sum, array) => sum + inputsOfArray(array), 0),
      ).toBe(count);
    }
  });
});
