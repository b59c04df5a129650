import { describe, expect, it } from 'vitest';
import { coherentSumDb, type MonoWave } from './acoustics';
import {
  analyseSession,
  reflectionsAtArray,
  setUpTolerance,
  spillMatrix,
  threeToOne,
} from './analysis';
import { ensembleFrame } from './analysis/ensemble-frame';
import {
  allTechniques,
  measure,
  placesFor,
  readyPlayers,
  readyTechnique,
} from './analysis/recommend';
import { frontToBackDb } from './analysis/spread';
import { aimToLand } from './arrays';
import { short } from './audio/fixtures/heard';
import { replacePlayers } from './ensembles';
import { arched, crowded, turned } from './fixtures/set-ups';
import { HALL, KIT, pair, player, strip } from './fixtures/parts';
import { told } from './fixtures/told';
import { assignKit } from './kit';
import { imageZones, MODELS, nearCues, prepareArray, tradeMap } from './localisation';
import { contextOf } from './prepare/context';
import { forWhomText } from './prepare/for-whom';
import { standPlans } from './mechanics';
import { newArray, newSource, sessionFrom, type Session } from './session';
import { monoResponse } from './fixtures/closed';

/** Seldom used corners of the core, as they stand; frozen anew with `vitest -u` when meant. */

const arrayOf = (fields: object) => newArray({ id: 'a', x: 0, y: -1, z: 2.5, ...fields });
const sessionOf = (fields: object): Session => sessionFrom({ venue: HALL, kit: KIT, ...fields });

describe('corners', () => {
  it('of sums in mono', async () => {
    const wave = (i: number, timeS: number): MonoWave => ({
      gain: 0.2 + 0.01 * i,
      energy: (0.2 + 0.01 * i) ** 2,
      timeS,
    });
    const waves = (count: number, lastS: number) =>
      Array.from({ length: count }, (_, i) => wave(i, i === count - 1 ? lastS : i * 0.0007));
    const sums = [
      [5, 0.002],
      [12, 0.06],
      [14, 0.01],
      [14, 0.0499],
      [14, 0.051],
      [20, 0.2],
    ].map(([count = 0, lastS = 0]) => short([count, lastS, coherentSumDb(waves(count, lastS))], 9));
    const weak = monoResponse(0.3, 0.2, 0.8).map(({ levelDb }) => short(levelDb, 8));
    const wide = [0.6, 0.9, 1.4].map((widthM) => {
      const session = sessionOf({
        sources: [player('w', 'harp', 0.4, 2, { widthM }), player('v', 'flute', -1, 2.5)],
        arrays: [
          arrayOf({ name: 'Spread', technique: pair('cardioid', 1.1, 90) }),
          {
            ...arrayOf({
              name: 'Twisted',
              mix: { capsules: [strip(-0.7), strip(0.6, { polarity: -1 })] },
            }),
            id: 'b',
          },
        ],
      });
      return analyseSession(session).findings.map(({ code, message }) => [code, message]);
    });
    await expect(told({ sums, weak, wide })).toMatchFileSnapshot('fixtures/pinned-corner-sums.txt');
  });

  it('of pairs with strips, zones and rows', async () => {
    const source = { x: 1.2, y: 2, z: 1.1 };
    const strips = [
      [strip(-1, { gainDb: -3 }), strip(1, { gainDb: -7 })],
      [strip(-1), strip(1, { polarity: -1, gainDb: 2 })],
      [strip(-1, { delayMs: 0.4 }), strip(1)],
      [strip(-0.4), strip(0.7)],
    ] as unknown as Parameters<typeof prepareArray>[1][];
    const cues = strips.map((list) =>
      short(
        nearCues(
          prepareArray(arrayOf({ technique: pair('cardioid', 0.3, 90) }), list),
          source,
          343,
        ),
        9,
      ),
    );
    const zones = [
      pair('figure-eight', 0, 90),
      pair('hypercardioid', 0.1, 130),
      pair('cardioid', 0.17, 110),
    ].map((technique) => imageZones(prepareArray(arrayOf({ technique })), 343));
    const row = [0.02, 0.3, 2].map((halfM) =>
      short(
        aimToLand(
          { x: 0, y: 0, tiltDeg: -20 },
          0,
          { x: -halfM, y: 3, z: 1 },
          { x: halfM, y: 3, z: 1 },
          [0, 1],
        ),
        8,
      ),
    );
    const depths = [
      [5, 5.5],
      [5, 6.5],
      [1, 1.2, 4],
    ].map((list) => frontToBackDb(list.map((depthM, i) => ({ depthM, db: 70 - 3 * i }))));
    await expect(told({ cues, zones, row, depths })).toMatchFileSnapshot(
      'fixtures/pinned-corner-pairs.txt',
    );
  });

  it('of rooms, stands, kits and lists', async () => {
    const five = ['violin', 'viola', 'cello', 'horn', 'flute'].map((kind, i) =>
      player(`p${i}`, kind, i - 2, 2 + 0.3 * i),
    );
    const mixed = {
      ...arrayOf({
        name: 'Three',
        technique: {
          kind: 'custom',
          capsules: [-1, 0, 1].map((x) => ({
            label: `${x}`,
            dx: x,
            dy: 0,
            dz: 0,
            azimuthDeg: 20 * x,
            elevationDeg: 0,
            pattern: 'cardioid',
          })),
        },
      }),
      mix: { capsules: [strip(-0.6), strip(0.1), strip(0.35, { gainDb: -4 })], faderDb: 0 },
    };
    const session = sessionOf({
      sources: five,
      arrays: [
        mixed,
        {
          ...arrayOf({ name: 'Far apart', technique: pair('omni', 1.6, 0) }),
          id: 'b',
          y: -2,
          equipment: { loadKg: 3 },
        },
        {
          ...arrayOf({ name: 'Spot', role: 'spot', technique: pair('cardioid', 0.17, 110) }),
          id: 'c',
          y: 1,
        },
        {
          ...arrayOf({ name: 'Main', role: 'main', technique: pair('cardioid', 0.2, 100) }),
          id: 'd',
          y: -3,
        },
        {
          ...arrayOf({
            name: 'Some',
            for: { kind: 'some', sources: five.slice(1).map(({ id }) => id) },
          }),
          id: 'e',
        },
      ],
    });
    const rooms = session.arrays.slice(0, 2).flatMap((array) =>
      reflectionsAtArray(session, array, session.sources[1] ?? newSource({}))
        .slice(0, 5)
        .map((reflection) => short(reflection, 7)),
    );
    const stands = standPlans(session).map((plan) => short(plan, 7));
    const { capsules, left, missing, unmatched } = assignKit(session);
    const whom = session.arrays.map((array) => forWhomText(array, session.sources, 343));
    const changed = structuredClone(session);
    replacePlayers(changed, new Set(['nobody']), [newSource({ id: 'new', kind: 'oboe' })]);
    const lists = changed.sources.map(({ id }) => id);
    const put = structuredClone(session);
    replacePlayers(put, new Set(['p1', 'p3']), [newSource({ id: 'new', kind: 'oboe' })]);
    const replaced = [put.sources.map(({ id }) => id), put.arrays.map((array) => array.for)];
    const all = { rooms, stands, kit: [capsules, left, missing, unmatched], whom, lists, replaced };
    await expect(told(all)).toMatchFileSnapshot('fixtures/pinned-corner-rig.txt');
  });

  it('of advice: what is tried, where, and its quick measure', async () => {
    const techniques = allTechniques();
    const sessions = [crowded, turned, arched];
    const rows = sessions.flatMap((session) => {
      const places = placesFor(session, session.sources);
      const players = readyPlayers(session, session.sources);
      const measured = techniques
        .filter((_, i) => i % 23 === 0)
        .map((technique, i) => {
          const place = places[(i * 7) % Math.max(1, places.length)];
          const model = MODELS[i % 4];
          if (!place || !model) return null;
          const ready = readyTechnique(technique, 343);
          return short([technique, measure(players, place, ready, model, contextOf(session))], 7);
        });
      return [[session.id, places.length], places.map((place) => short(place, 5)), ...measured];
    });
    await expect(told({ techniques, rows })).toMatchFileSnapshot(
      'fixtures/pinned-corner-advice.txt',
    );
  });

  it('of tolerance: how many draws each kind of array gets', () => {
    const draws = ['mid-side', 'pair', 'tree'].map((kind) => {
      const technique =
        kind === 'mid-side'
          ? { kind, midPattern: 'cardioid', sidePositive: 'left', sideGainDb: 0 }
          : pair('cardioid', 0.3, 90);
      const mix = kind === 'tree' ? { capsules: [strip(-0.5), strip(0.6)] } : {};
      const late = kind === 'mid-side' ? { capsules: [strip(0), strip(0, { delayMs: 0.5 })] } : mix;
      const array = arrayOf({ technique, mix: late });
      const many = Array.from({ length: 40 }, (_, i) => player(`p${i}`, 'violin', i / 10 - 2, 2));
      const session = sessionOf({ sources: many, arrays: [array] });
      const [first] = session.arrays;
      return first ? setUpTolerance(session, first).draws : null;
    });
    expect(draws).toMatchInlineSnapshot(`
      [
        625,
        7500,
        1875,
      ]
    `);
  });

  it('of wide spacings, players who look elsewhere, and no stands', async () => {
    const wide = tradeMap('omni', [1, 5, 20, 50], [0, 60], 343).halfDeg;
    const facing = [
      [180, 180, 180],
      [90, -90, 180],
      [90, 100, -80, -95],
      [45, 60, 30],
      [0, 180],
    ].map((list) => {
      const sources = list.map((facingDeg, i) => newSource({ id: `${i}`, x: i, y: 2, facingDeg }));
      return short(ensembleFrame(sources), 8);
    });
    const bare = { ...crowded, kit: { ...crowded.kit, stands: [] } };
    const places = [bare, crowded].map((session) => [
      placesFor(session, session.sources).length,
      ...placesFor(session, session.sources).map(({ z, beforeM }) => short([z, beforeM], 6)),
    ]);
    const spots = sessionOf({
      sources: [player('p', 'violin', 0, 2), player('q', 'horn', 1, 2.4)],
      arrays: [
        { ...arrayOf({ name: 'P', role: 'spot', technique: pair('cardioid', 0.4, 60) }), y: 1.2 },
        {
          ...arrayOf({ name: 'Q', role: 'spot', technique: pair('omni', 0, 0) }),
          id: 'b',
          x: 1,
          y: 1.9,
        },
        {
          ...arrayOf({ name: 'Nobody', role: 'spot', for: { kind: 'some', sources: [] } }),
          id: 'c',
        },
      ],
    });
    const told3 = threeToOne(spots).map((found) => short(found, 7));
    const all = {
      wide: Object.entries(wide).map(([id, values]) => short([id, [...values]], 7)),
      facing,
      places,
      spots: told3,
      spill: spillMatrix(spots).map((row) => short(row, 7)),
    };
    await expect(told(all)).toMatchFileSnapshot('fixtures/pinned-corner-places.txt');
  });
});
