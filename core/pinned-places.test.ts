import { describe, expect, it } from 'vitest';
import {
  coherentResponse,
  coherentSumDb,
  coherentMono,
  monoDip,
  monoSum,
  sumBelow,
  NAMED_PATTERNS,
  criticalDistance,
  distanceFactor,
  eyringTime,
  nullAngleDeg,
  reflectionPath,
  reverberationTimes,
  sabineTime,
  transitionFrequency,
} from './acoustics';
import { roomOf } from './analysis';
import { short } from './audio/fixtures/heard';
import {
  anatomyOf,
  fromFaces,
  instrumentFields,
  INSTRUMENTS,
  joinedPieces,
  onPlan,
  partsOf,
  placeFromFace,
  playerGroups,
  playerMarks,
  seenWidth,
  sizeOf,
  sourceEdges,
  splitIntoPieces,
  stageFor,
  surfacesOf,
  TEMPLATES,
} from './ensembles';
import {
  centreSlopes,
  farField,
  focusOf,
  inPlace,
  interauralOf,
  recordingAngles,
} from './localisation';
import { coverageAdvice } from './planning/coverage';
import { beginSession, HALL_SIZES } from './planning/begin';
import { kitSet, presetArray, presetsFor, spotFor } from './planning/presets';
import { shortages } from './planning/counts';
import { readyArray } from './prepare/arrays';
import { newSource, type Source } from './session';
import {
  angleText,
  delayReadings,
  exactLength,
  formatLength,
  formatNumber,
  formatSigned,
  formatTemperature,
  lengthText,
  panText,
  parseNumber,
  parsePan,
  parseTemperature,
  shiftText,
} from './units';
import { arched, crowded, turned } from './fixtures/set-ups';
import { told } from './fixtures/told';
import { plainWaves } from './fixtures/closed';

/** Where things stand and how they are told; looked at and frozen anew with `vitest -u` when meant. */

const counted = (): (() => string) => {
  let count = 0;
  return () => `id ${(count += 1)}`;
};

const player = (kind: string, i: number): Source =>
  newSource({
    ...instrumentFields(kind),
    ...{ id: `p${i}`, name: `Player ${i}`, kind, x: (i % 7) - 3, y: 1 + (i % 5) },
    facingDeg: 180 + ((i * 31) % 90) - 45,
  });

describe('where things stand', () => {
  it('a session begins as it did, with every template and in every hall', async () => {
    const begun = TEMPLATES.flatMap((template, i) => {
      const hall = HALL_SIZES[i % HALL_SIZES.length] ?? null;
      const session = beginSession({ title: 'New', template, hall }, counted(), '2027-01-01');
      const { venue, sources, arrays, sections } = session;
      return [
        [template.name, venue.widthM, venue.depthM, venue.origin, venue.stage],
        sources.map(({ x, y, z, facingDeg }) => short([x, y, z, facingDeg], 8)),
        arrays.map(({ name, role, x, y, z, aimDeg, tiltDeg }) =>
          short([name, role, x, y, z, aimDeg, tiltDeg], 8),
        ),
        short([sections.length, shortages(session).length, stageFor(venue, sources)]),
      ];
    });
    const bare = HALL_SIZES.map((hall) => {
      const session = beginSession({ title: '', template: null, hall }, counted(), '2027-01-01');
      return short([session.title, session.venue, session.arrays]);
    });
    await expect(told({ begun, bare })).toMatchFileSnapshot('fixtures/pinned-begun.txt');
  });

  it('every instrument has the parts, the spot and the presets that it had', async () => {
    // Each has its place by its name: one that comes or goes moves no other.
    const placeBy = (kind: string) => [...kind].reduce((sum, of) => sum + of.charCodeAt(0), 0) % 35;
    const rows = INSTRUMENTS.map(({ kind }) => {
      const source = player(kind, placeBy(kind));
      const session = { ...crowded, sources: [...crowded.sources, source] };
      const { x, y, z, aimDeg, tiltDeg, mix, technique } = spotFor(session, source, 's', 'Spot');
      const surfaces = surfacesOf(source);
      const at = { x: 0.3, y: 0.1, z: 2 };
      const faces = fromFaces(source, at);
      return [
        [kind, sizeOf(source), anatomyOf(source) !== null],
        short([x, y, z, aimDeg, tiltDeg, mix.faderDb, technique], 8),
        short([sourceEdges(source, { x: 1, y: -2 }), seenWidth(source, { x: -1, y: -3 })], 8),
        short(faces, 8),
        short([surfaces, faces.map(({ name }) => placeFromFace(source, name, at, 0.4))], 8),
        short(onPlan(source, [0.3, 0.2]), 8),
      ];
    });
    const presets = ['violin', 'drum kit', 'grand piano'].flatMap((kind, i) =>
      presetsFor({ kind }).map((preset) =>
        short(presetArray(preset, player(kind, i), 'a', kind), 8),
      ),
    );
    const kit = player('drum kit', 3);
    const pieces = splitIntoPieces(kit, counted());
    const all = {
      rows,
      presets,
      kit: short(kitSet({ ...crowded, sources: [kit] }, kit, counted()), 8),
      pieces: short([...pieces, joinedPieces(pieces), joinedPieces([])], 8),
      advice: [crowded, turned, { ...crowded, sources: [kit] }].map(coverageAdvice),
      marks: [crowded, turned, arched].map(({ sources }) => [
        ...playerMarks(playerGroups(sources), sources).values(),
      ]),
      parts: short(partsOf(kit, [kit, { x: 0.5, y: 1, z: 0.9 }], counted())),
    };
    await expect(told(all)).toMatchFileSnapshot('fixtures/pinned-instruments.txt');
  });
});

describe('what is heard of arrays', () => {
  it('is as it was: angles, curves, focus, mono', async () => {
    const arrays = [crowded, turned, arched].flatMap(({ arrays }) => arrays.map(readyArray));
    const angles = arrays.map((array) => {
      const far = farField(array, 343);
      const found = recordingAngles(array, far);
      const place = array.steep ? null : recordingAngles(array, inPlace(array, 3.2, 1.1, 340));
      return short([found, place, centreSlopes(array, far)]);
    });
    const cues = [-15, -4, 0, 0.5, 7].flatMap((db) =>
      [-0.8, 0, 0.2, 1.4].map((ms) => short([db, ms, focusOf(plainWaves(db, ms))], 8)),
    );
    const ears = [-80, -30, 0, 5, 60].flatMap((deg) =>
      [100, 600, 2500, 9000].map((hz) => short([deg, hz, interauralOf(deg, hz)], 8)),
    );
    const waves = [
      [{ gain: 1, energy: 1, timeS: 0 }],
      [
        { gain: 0.7, energy: 0.49, timeS: 0.001 },
        { gain: -0.5, energy: 0.25, timeS: 0.0023 },
      ],
      [
        { gain: 0.4, energy: 0.2, timeS: 0 },
        { gain: 0.35, energy: 0.2, timeS: 0.0011 },
        { gain: 0.2, energy: 0.05, timeS: 0.0062 },
      ],
    ];
    const mono = waves.map((of) =>
      short([
        ...[coherentSumDb(of), sumBelow(of, -3), monoDip(of), monoDip(of, 800), coherentMono(of)],
        coherentResponse(of).map(({ levelDb }) => levelDb),
      ]),
    );
    const sums = [0.2, -0.9, 1].flatMap((right) =>
      [0, 0.05, -0.7, 4, 30].map((ms) => short([right, ms, monoSum(0.8, right, ms)])),
    );
    await expect(told({ angles, cues, ears, mono, sums })).toMatchFileSnapshot(
      'fixtures/pinned-heard.txt',
    );
  });

  it('in a room, and of patterns', async () => {
    const room = roomOf(crowded);
    const surfaces = ['left', 'right', 'front', 'back', 'floor', 'ceiling'] as const;
    const [from, to] = [
      { x: 1, y: 2, z: 1 },
      { x: 0, y: 0, z: 2 },
    ];
    const paths = surfaces.map((one, i) => {
      const two = [one, surfaces[(i + 2) % 6] ?? one];
      return room && short([[], [one], two].map((over) => reflectionPath(room, from, to, over)));
    });
    const patterns = Object.values(NAMED_PATTERNS).map((a) =>
      short([a, nullAngleDeg(a), distanceFactor(a)]),
    );
    const walls = (absorption: number) => [
      { areaM2: 300, absorption },
      { areaM2: 100, absorption: 0.3 },
    ];
    const times = [0.02, 0.2, 0.6].map((alpha) =>
      short([sabineTime(2000, walls(alpha), 0), eyringTime(2000, walls(alpha), 0.002)]),
    );
    const halls = reverberationTimes(2000, (hz) => walls(0.1 + hz / 20_000), 18, 40).map((band) =>
      short(band),
    );
    const distances = [
      [1, 2000, 1.5],
      [4, 400, 0.4],
    ].map(([q = 1, v = 1, t = 1]) => short([criticalDistance(q, v, t), transitionFrequency(v, t)]));
    await expect(told({ paths, patterns, times, halls, distances })).toMatchFileSnapshot(
      'fixtures/pinned-rooms.txt',
    );
  });
});

describe('figures as they are read and typed', () => {
  it('are as they were', async () => {
    const metres = [0, 0.0004, 0.17, 1.2345, -2.5, 30.48, 0.3048, NaN, Infinity, null, undefined];
    const lengths = metres.flatMap((value) =>
      (['metric', 'imperial'] as const).flatMap((system) =>
        (['floor', 'bar'] as const).map((precision) => [
          String(value),
          formatLength(value, system, precision),
          lengthText(value, system, precision),
          typeof value === 'number' && Number.isFinite(value)
            ? exactLength(value, system, precision)
            : null,
        ]),
      ),
    );
    const numbers = [0, -0.04, 0.05, 12.345, -7, 1e9, NaN, null].map((value) => [
      ...[formatNumber(value, 1), formatSigned(value, 1), formatSigned(value, 0)],
      ...[angleText(value), angleText(value, 0), shiftText(value)],
    ]);
    const others = [-1, -0.004, 0, 0.333, 1].map((pan) => [panText(pan), shiftText(pan)]);
    const warm = [-10, 0, 19.5, 35].map((celsius) => [
      formatTemperature(celsius, 'metric'),
      formatTemperature(celsius, 'imperial'),
      short(delayReadings(celsius / 4, 96_000, celsius)),
    ]);
    const typed = [
      ...['30 L', 'left 20', 'r', 'c', '50%', '−40', '120', 'x', ''].map((text) => parsePan(text)),
      ...['19', '66 f', '66 °F', '20 c', 'hot'].flatMap((text) => [
        parseTemperature(text, 'C'),
        parseTemperature(text, 'F'),
      ]),
      ...['12 dB', '−3,5', '1e3', '4 kg', '', '1/2'].map((text) =>
        parseNumber(text, ['dB'], '3 dB'),
      ),
    ].map((read) => short(read));
    await expect(told({ lengths, numbers, others, warm, typed })).toMatchFileSnapshot(
      'fixtures/pinned-words.txt',
    );
  });
});
