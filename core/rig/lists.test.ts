import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../session';
import { buildOrder, cableLengthM, packList, positionSheet, standPlans, takeState } from '.';
import { neededReach } from '../mechanics/stands';

const base = {
  settings: { units: 'metric' },
  venue: { temperatureC: 21 },
  sources: [{ id: 'p', name: 'Viol', x: 0, y: 3, z: 1, lid: 'none' }],
  arrays: [
    {
      id: 's',
      name: 'Spot',
      role: 'spot',
      x: 2,
      y: 2,
      z: 1.2,
      technique: { kind: 'single', pattern: 'omni' },
    },
    { id: 'm', name: 'Main', role: 'main', x: 0, y: -1, z: 3, tiltDeg: -10 },
    {
      id: 'o',
      name: 'Out',
      role: 'outrigger',
      x: 0,
      y: -1,
      z: 2,
      technique: { kind: 'pair', pattern: 'omni', spacingM: 2, includedAngleDeg: 0 },
    },
    { id: 'off', name: 'Off', enabled: false },
  ],
};
const session = sessionFrom(base);

describe('the build in order', () => {
  it('begins with the datum, then main before outriggers before spots, and adds its minutes up', () => {
    const steps = buildOrder(session);
    expect(steps.map(({ what, minutes }) => [what.split(':')[0], minutes])).toEqual([
      ['Find the datum, mark it and the tape points on the floor', 6],
      ['Main', 4],
      ['Main', 8],
      ['Out L', 4],
      ['Out L', 6],
      ['Out R', 4],
      ['Out R', 6],
      ['Spot', 4],
      ['Spot', 6],
      ['Run and tape the cables, clear of walkways and exits', 10],
      ['Patch with faders and monitors down, then phantom power where it is wanted', 5],
      ['Line check', 6],
    ]);
    expect(steps[0]?.fromMin).toBe(9 * 60);
    for (const [i, step] of steps.slice(1).entries()) {
      expect(step.fromMin).toBe((steps[i]?.fromMin ?? 0) + (steps[i]?.minutes ?? 0));
    }
    expect(steps[2]?.what).toBe(
      'Main: set the bar, mount 2 microphones, raise to 3.00 m, aim and tilt',
    );
    expect(steps[8]?.what).toBe('Spot: mount the microphone, raise to 1.20 m, aim and tilt');
  });

  it('begins when the day says that it is built', () => {
    const entries = [
      { id: 'a', kind: 'load-in', minutes: 30 },
      { id: 'b', kind: 'build', minutes: 90 },
    ];
    const day = sessionFrom({ ...base, brief: { timetable: { start: '10:15', entries } } });
    expect(buildOrder(day)[0]?.fromMin).toBe(10 * 60 + 45);
  });
});

describe('cables', () => {
  it.each([
    // Along walls: |x| + |y| + z, with 15 % and two metres for the stand.
    [{ x: 0, y: 0, z: 2.6 }, 5],
    [{ x: 0, y: 0, z: 2.7 }, 10],
    [{ x: -3, y: 2, z: 1.9 }, 10],
    [{ x: -3, y: 2, z: 2 }, 15],
    [{ x: 3, y: -4, z: 0 }, 15],
    [{ x: 10, y: 10, z: 4 }, 30],
    [{ x: 30, y: 10, z: 1 }, 50],
    [{ x: 30, y: 15, z: 5 }, 60],
  ])('%o takes %i m', (at, metres) => {
    expect(cableLengthM(at)).toBe(metres);
  });
});

describe('the pack list', () => {
  it('adds up what the arrays take, and what is not in the kit by its pattern', () => {
    const lines = packList(session);
    const count = (what: RegExp) =>
      lines.filter((line) => what.test(line.what)).reduce((sum, line) => sum + line.count, 0);
    expect(count(/omni microphone, not in the kit/)).toBe(3);
    expect(count(/cardioid microphone, not in the kit/)).toBe(2);
    expect(count(/^microphone cable/)).toBe(5);
    expect(count(/^measuring tape/)).toBe(2);
    expect(lines.some(({ note }) => /Off/.test(note))).toBe(false);
    expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
    const omni = lines.find(({ what }) => /omni/.test(what));
    expect(omni?.note.split('; ').sort()).toEqual(['Out', 'Spot']);
  });
});

describe('the position sheet', () => {
  it('gives each capsule of the enabled arrays its place by geometry', () => {
    const { arrays } = positionSheet(session);
    expect(arrays.map(({ name }) => name)).toEqual(['Spot', 'Main', 'Out']);
    const out = arrays[2]?.capsules ?? [];
    expect(out.map(({ label, x, y, heightM }) => [label, x, y, heightM])).toEqual([
      ['L', -1, -1, 2],
      ['R', 1, -1, 2],
    ]);
    const [left] = arrays[1]?.capsules ?? [];
    // 17 cm and 110°, tilted by 10°: the axis turns in the tilted plane.
    expect(left?.x).toBeCloseTo(-0.085, 9);
    expect(left?.tiltDeg).toBeCloseTo(
      (Math.asin(-Math.cos((55 * Math.PI) / 180) * Math.sin((10 * Math.PI) / 180)) * 180) / Math.PI,
      9,
    );
    // Tapes from the back corners of the stage, to the floor point below.
    expect(out[0]?.tapes?.fromFirstM).toBeCloseTo(Math.hypot(-1 + 5, -1 - 7), 9);
    expect(out[0]?.tapes?.fromSecondM).toBeCloseTo(Math.hypot(-1 - 5, -1 - 7), 9);
  });
});

describe('stands', () => {
  const kit = {
    stands: [
      { id: 'low', name: 'Low', count: 1, minHeightM: 0.8, maxHeightM: 1.8, reachM: 0.8 },
      {
        id: 'tall',
        name: 'Tall',
        count: 1,
        minHeightM: 1.5,
        maxHeightM: 4,
        reachM: 1,
        massKg: 6,
        baseM: 0.6,
      },
    ],
  };
  const withKit = sessionFrom({ ...base, kit });

  it('go to the highest array first, the shortest that does it', () => {
    const plans = standPlans(withKit);
    const by = new Map(plans.map((plan) => [plan.arrayName, plan]));
    expect(by.get('Main')?.stand?.name).toBe('Tall');
    expect(by.get('Spot')?.stand?.name).toBe('Low');
    expect(by.get('Out L')).toMatchObject({ stand: null });
    expect(by.get('Out L')?.lacks).not.toBe('');
    expect(by.get('Main')?.lacks).toBe('');
  });

  it('stand beside a player by the distance that is clear of the elbow, in tenths of a metre', () => {
    expect(neededReach(session, { x: 2, y: 2 })).toBe(0);
    expect(neededReach(session, { x: 0, y: 3 })).toBeCloseTo(0.7, 9);
    expect(neededReach(session, { x: 0.35, y: 3 })).toBeCloseTo(0.4, 9);
    const crowd = Array.from({ length: 441 }, (_, i) => ({
      x: -5 + (i % 21) / 2,
      y: -2 + Math.floor(i / 21) / 2,
    }));
    expect(neededReach(sessionFrom({ sources: crowd }), { x: 0, y: 3 })).toBeNull();
  });
});

describe('the state of a take', () => {
  it('is the air, who sat where, what stood where, one gain for each input', () => {
    const state = takeState(session);
    expect(state.temperatureC).toBe(21);
    expect(state.sources).toEqual([{ id: 'p', x: 0, y: 3, z: 1 }]);
    expect(state.arrays.map(({ id }) => id)).toEqual(['s', 'm', 'o']);
    expect(state.gainsDb).toHaveLength(5);
    expect(state.lids).toEqual([]);
    const lid = sessionFrom({ sources: [{ id: 'g', lid: 'full-stick' }] });
    expect(takeState(lid).lids).toEqual([{ sourceId: 'g', lid: 'full-stick' }]);
  });
});
