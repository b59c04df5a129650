import { describe, expect, it } from 'vitest';
import { gainPlan, outputVolts, analyseSession, mendable } from '../analysis';
import { standPlans, neededReach } from '../mechanics';
import { nonetDemo } from '../demo/nonet';
import { sessionFrom, type Session } from '../session';
import {
  buildOrder,
  builtEffects,
  builtFigures,
  builtSession,
  cableUses,
  channelList,
  completeness,
  packList,
  rigTables,
  safetyCautions,
  takeState,
} from '.';

const NOW = '2026-11-23T12:00:00.000Z';
const demo = nonetDemo(NOW);
const mic = (change: object) => ({ id: 'k', name: 'Mic', patterns: ['omni'], count: 4, ...change });
const spot = (id: string, x: number, y: number, z = 1) => ({
  id,
  name: id,
  role: 'spot',
  x,
  y,
  z,
  technique: { kind: 'single', pattern: 'omni' },
});
const codes = (session: Session) => analyseSession(session).findings.map(({ code }) => code);

describe('gain', () => {
  it('is 1 Pa at 94 dB SPL, ten times that at 114', () => {
    expect(outputVolts(94, 10)).toBeCloseTo(0.01, 12);
    expect(outputVolts(114, 10)).toBeCloseTo(0.1, 12);
    expect(() => outputVolts(94, 0)).toThrow(/sensitivityMvPa is 0; allowed/);
  });

  it('follows distance, sensitivity, headroom and full scale', () => {
    const session = sessionFrom({
      sources: [{ id: 's', x: 0, y: 2, z: 1, levelDb: 94 }],
      arrays: [spot('a', 0, 0)],
      kit: { microphones: [mic({ sensitivityMvPa: 10, maxSplDb: 130 })] },
      rig: { peakAboveDb: 20, headroomDb: 10, fullScaleDbu: 18 },
    });
    const [row] = gainPlan(session);
    // 2 m: −6.02 dB; peak 107.98 dB SPL; 50 mV = −23.8 dBu; 18 − 10 + 23.8.
    expect(row?.levelDb).toBeCloseTo(94 - 6.0206, 3);
    expect(row?.outputMv).toBeCloseTo(50, 1);
    expect(row?.gainDb).toBeCloseTo(8 + 23.803, 2);
    expect(row?.overloadDb).toBeCloseTo(107.98 - 130, 2);
    expect(row?.phantom).toBe('on');
  });

  it('asks instead of guessing when the sensitivity is not known', () => {
    const session = sessionFrom({
      sources: [{ y: 2 }],
      arrays: [spot('a', 0, 0)],
      kit: { microphones: [mic({})] },
    });
    expect(gainPlan(session)[0]).toMatchObject({ gainDb: null, outputMv: null, overloadDb: null });
  });

  it('blocks phantom power on a ribbon that must not have it, and mends it', () => {
    const session = sessionFrom({
      sources: [{ y: 2 }],
      arrays: [
        {
          ...spot('a', 0, 0),
          technique: { kind: 'single', pattern: 'figure-eight' },
          equipment: { phantom: 'on' },
        },
      ],
      kit: { microphones: [mic({ patterns: ['figure-eight'], phantom: 'must not' })] },
    });
    const [first] = analyseSession(session).findings;
    expect(first).toMatchObject({ code: 'phantom-on-ribbon', blocking: true, severity: 'fault' });
    const [change] = (first && mendable(session, first).fix?.changes) ?? [];
    expect(change?.set).toMatchObject({ equipment: { microphoneIds: [], phantom: 'as needed' } });
  });

  it('finds an overload and a pad that is wanted', () => {
    const loud = sessionFrom({
      sources: [{ x: 0, y: 0.1, z: 1, levelDb: 110 }],
      arrays: [spot('a', 0, 0)],
      kit: { microphones: [mic({ sensitivityMvPa: 30, maxSplDb: 130 })] },
    });
    expect(codes(loud)).toEqual(expect.arrayContaining(['overload', 'pad']));
  });
});

describe('stands', () => {
  const stands = [
    { id: 't', name: 'Tall', maxHeightM: 4, minHeightM: 1.5, reachM: 1, baseM: 0.4, massKg: 6 },
    { id: 'b', name: 'Boom', maxHeightM: 2, minHeightM: 0.8, reachM: 0.8, baseM: 0.3, massKg: 3 },
  ];

  it('stand beside a player, with the boom that it takes', () => {
    const session = sessionFrom({
      sources: [{ id: 's', x: 0, y: 2 }],
      arrays: [spot('near', 0, 2, 1.5)],
      kit: { stands },
    });
    expect(neededReach(session, { x: 0, y: 2 })).toBeCloseTo(0.7, 9);
    const [plan] = standPlans(session);
    expect(plan?.stand?.id).toBe('b');
    // 0.35 kg at 0.7 m and a boom of 0.42 kg half-way, about an edge at 0.15 m.
    expect(plan?.momentNm).toBeCloseTo(9.81 * (0.35 * 0.55 + 0.42 * 0.2), 6);
    expect(plan?.holdsNm).toBeCloseTo(9.81 * 2.58 * 0.15, 6);
    // Twice (0.1925 + 0.084) kg·m are wanted, 0.387 are there: 0.166 / 0.15.
    expect(plan?.ballastKg).toBe(2);
  });

  it('says what is short, and asks for weight where the boom would win', () => {
    const session = sessionFrom({
      sources: [{ id: 's', x: 0, y: 2 }],
      arrays: [
        {
          ...spot('main', 0, 2, 2.9),
          technique: { kind: 'pair', pattern: 'omni', spacingM: 0.3, includedAngleDeg: 0 },
        },
        spot('far', 0, -3, 4.5),
      ],
      kit: { stands: [{ ...stands[0], massKg: 1 }] },
    });
    expect(standPlans(session)[1]?.lacks).toMatch(/needs 4\.50 m up.*reaches 4\.00 m up/);
    expect(standPlans(session)[0]?.ballastKg).toBeGreaterThan(0);
    expect(codes(session)).toEqual(expect.arrayContaining(['stand-short', 'tip-over']));
  });
});

describe('lists', () => {
  it('number every input; the side of mid-side is one input on two strips, the second inverted', () => {
    const session = sessionFrom({
      settings: { sampleRateHz: 48000 },
      sources: [{ y: 3 }],
      arrays: [
        { id: 'm', name: 'Main', technique: { kind: 'mid-side', midPattern: 'cardioid' } },
        { ...spot('s', 0, 2), mix: { capsules: [{ pan: 0.3, delayMs: 10 }] } },
      ],
    });
    expect(
      channelList(session).map(({ number, name, pan, polarity }) => [number, name, pan, polarity]),
    ).toEqual([
      [1, 'Main M', 0, 1],
      [2, 'Main S+', -1, 1],
      [2, 'Main S−', 1, -1],
      [3, 's', 0.3, 1],
    ]);
    expect(channelList(session)[3]?.delaySamples).toBe(480);
  });

  it('pack what the arrays take, counted', () => {
    const lines = packList(demo);
    const count = (what: RegExp) => lines.find((line) => what.test(line.what))?.count;
    expect(count(/^Small cardioid/)).toBe(2);
    expect(count(/^Tall stand/)).toBe(1);
    expect(count(/^Short bar/)).toBe(1);
    expect(count(/^microphone cable/)).toBe(2);
    expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
  });

  it('build in order from the day’s own time', () => {
    const steps = buildOrder(demo);
    // The demo begins at 9:30 with 40 minutes of load-in.
    expect(steps[0]?.fromMin).toBe(610);
    expect(steps.at(-1)?.what).toMatch(/^Line check/);
    steps.slice(1).forEach((step, i) => {
      expect(step.fromMin).toBe((steps[i]?.fromMin ?? 0) + (steps[i]?.minutes ?? 0));
    });
  });

  it('use a cable for equal distances, and folded in three for separate microphones', () => {
    const session = sessionFrom({
      sources: [
        { id: 'l', name: 'Left', x: -1.5, y: 3, z: 1 },
        { id: 'c', name: 'Middle', x: 0, y: 3, z: 1 },
        { id: 'r', name: 'Right', x: 1.5, y: 3, z: 1 },
      ],
      arrays: [
        { id: 'm', name: 'Main', x: 0, y: 0, z: 1 },
        spot('a', -1.5, 2.5),
        spot('b', 1.5, 2.5),
      ],
    });
    const uses = cableUses(session);
    expect(uses.find(({ what }) => what === 'Main to Middle')?.cableM).toBeCloseTo(
      Math.hypot(0.085, 3),
      9,
    );
    expect(uses.find(({ folds }) => folds === 3)).toMatchObject({
      foldedM: expect.closeTo(1, 9) as number,
    });
    expect(uses.some(({ what }) => what === 'Main to Left')).toBe(false);
  });

  it('have finite or empty cells in every table', () => {
    for (const { name, head, rows } of rigTables(demo)) {
      for (const row of rows) {
        expect(row, name).toHaveLength(head.length);
        for (const cell of row)
          if (typeof cell === 'number') expect(Number.isFinite(cell)).toBe(true);
      }
    }
  });
});

describe('as built', () => {
  const noted = {
    ...demo,
    rig: {
      ...demo.rig,
      asBuilt: [
        { arrayId: 'main', field: 'spacingM' as const, value: 0.2 },
        { arrayId: 'main', field: 'z' as const, value: 2.71 },
      ],
    },
  };

  it('names what is outside its tolerance and moves the prediction', () => {
    const outside = builtFigures(noted).filter((figure) => figure.outside);
    expect(outside.map(({ field }) => field)).toEqual(['spacingM']);
    const [effect] = builtEffects(noted);
    expect(effect?.plannedHalfDeg).toBeCloseTo(47.8, 1);
    expect(effect?.builtHalfDeg).toBeLessThan(45);
    expect(effect?.worstPct).toBeGreaterThan(2);
    expect(builtSession(noted).arrays[0]?.z).toBe(2.71);
    expect(builtEffects(demo)).toEqual([]);
  });

  it('says what is missing to build it again', () => {
    expect(completeness(noted)).toContain('Main pair: included angle as built');
    expect(completeness(noted)).not.toContain('Main pair: spacing as built');
    expect(completeness(sessionFrom({}))).toContain('no array is in use');
  });
});

describe('the state of a take', () => {
  it('holds what was really set, and is a valid part of a session', () => {
    const session = {
      ...demo,
      rig: { ...demo.rig, asBuilt: [{ arrayId: 'main', field: 'z' as const, value: 2.8 }] },
    };
    const state = takeState(session);
    expect(state.arrays[0]?.z).toBe(2.8);
    expect(state.temperatureC).toBe(19);
    expect(state.gainsDb).toHaveLength(2);
    const kept = sessionFrom({ ...session, takes: [{ id: 't', number: 1, state }] });
    expect(kept.takes[0]?.state).toEqual(state);
  });
});

describe('cautions', () => {
  it('are only those that the plan raises', () => {
    const said = (session: Session) => safetyCautions(session).map(({ code }) => code);
    expect(said(sessionFrom({}))).toEqual([]);
    const over = sessionFrom({
      sources: [{ x: 0, y: 0, lid: 'full-stick', kind: 'grand piano' }],
      arrays: [spot('a', 0, 0.3, 3.2)],
    });
    expect(said(over)).toEqual(expect.arrayContaining(['over-people', 'high', 'cables', 'lid']));
    expect(said(over)).not.toContain('phantom');
  });
});
