import { describe, expect, it } from 'vitest';
import { facesCrossed, isFaceBetween, isInFaces, waysOverFaces } from '../acoustics/faced-room';
import { earlyReflections, isInside, reflectionPath } from '../acoustics/reflections';
import { reverberationFromSurfaces, broughtIn } from '../analysis/room';
import { contextOf } from '../prepare/context';
import { sessionFrom } from '../session/create';
import { readSession } from '../session/read';
import type { Session } from '../session/schema';
import { OUTLINES, outlineOf } from '../units/outlines';
import { insidePolygon, type PlanPoint } from '../units/polygon';
import { seededRandom } from '../units/random';
import { distance, vec, type Vec3 } from '../units/vector';
import {
  facedRoom,
  hallMeasures,
  hallShape,
  planCorners,
  roomOf,
  sectionAt,
  stretched,
  surfacesOf,
  withPlanCorners,
} from '.';

const SPEED = 343;
const omni = (position: Vec3) => ({ position, axis: vec(0, 1, 0), patternA: 1 });

/** A regular octagon of 6 m apothem, 8 m high, the datum in its middle. */
const APOTHEM = 6;
const SIDE = APOTHEM * Math.tan(Math.PI / 8);
const OCTAGON = (
  [
    [-SIDE, -APOTHEM],
    [SIDE, -APOTHEM],
    [APOTHEM, -SIDE],
    [APOTHEM, SIDE],
    [SIDE, APOTHEM],
    [-SIDE, APOTHEM],
    [-APOTHEM, SIDE],
    [-APOTHEM, -SIDE],
  ] as const
).map(([x, y]) => ({ x: x + APOTHEM, y: y + APOTHEM }));

const hall = (venue: Record<string, unknown>): Session => sessionFrom({ venue });
const octagon = (more: Record<string, unknown> = {}): Session =>
  hall({
    widthM: 12,
    depthM: 12,
    heightM: 8,
    origin: { x: 6, y: 6 },
    shape: { corners: OCTAGON },
    ...more,
  });

function facesOf(session: Session) {
  const room = facedRoom(session.venue);
  if (!room) throw new Error('a hall is expected');
  return room;
}

/** A point of a hall, well inside. */
function pointIn(session: Session, random: () => number): Vec3 {
  const room = facesOf(session);
  for (let i = 0; i < 500; i++) {
    const along = (low: number, high: number): number => low + random() * (high - low);
    const at = vec(
      along(room.min.x, room.max.x),
      along(room.min.y, room.max.y),
      along(room.min.z, room.max.z),
    );
    if (isInFaces(room, at)) return at;
  }
  throw new Error('no point of this hall was found');
}

describe('an octagon', () => {
  const room = facesOf(octagon());
  const [source, receiver] = [vec(1.2, 2.5, 1.3), vec(-0.4, -3, 2.8)];

  it('has volume and surface of the closed forms', () => {
    const floor = 8 * APOTHEM * APOTHEM * Math.tan(Math.PI / 8);
    const { volumeM3 = 0, surfaceM2 = 0 } = hallMeasures(octagon().venue) ?? {};
    expect(volumeM3).toBeCloseTo(8 * floor, 9);
    expect(surfaceM2).toBeCloseTo(2 * floor + 8 * 2 * SIDE * 8, 9);
  });

  it('has 44 images of 100 that can be, at their distances', () => {
    const ways = waysOverFaces(room, source, receiver);
    expect(ways).toHaveLength(44);
    const first = ways
      .filter(({ surfaces }) => surfaces.length === 1)
      .map(({ image }) => distance(image, receiver))
      .sort((a, b) => a - b);
    expect(first.slice(0, 4).map((m) => m.toFixed(3))).toEqual([
      '7.044',
      '11.707',
      '12.199',
      '12.257',
    ]);
  });

  it('has a focus in its middle: eight walls at 12 m', () => {
    const middle = vec(0, 0, 1.5);
    const walls = waysOverFaces(room, middle, middle, 1).filter(({ surfaces }) =>
      surfaces[0]?.startsWith('wall'),
    );
    expect(walls.map(({ image }) => distance(image, middle).toFixed(6))).toEqual(
      Array.from({ length: 8 }, () => '12.000000'),
    );
  });

  it('draws every way from face to face, as long as its image is far', () => {
    for (const { surfaces, pathM } of earlyReflections(room, source, omni(receiver), SPEED) ?? []) {
      const path = reflectionPath(room, source, receiver, surfaces);
      expect(path).toHaveLength(surfaces.length + 2);
      const long = path.slice(1).reduce((sum, at, i) => sum + distance(at, path[i] ?? at), 0);
      expect(long).toBeCloseTo(pathM, 9);
    }
  });

  it('counts for the critical distance, Sabine and Eyring', () => {
    const session = octagon({
      rt60S: 2,
      surfaces: ['floor', 'ceiling', 'left', 'right', 'front', 'back'].map((surface) => ({
        surface,
        absorption: 0.1,
      })),
    });
    const { volumeM3 = 0, surfaceM2 = 0 } = hallMeasures(session.venue) ?? {};
    expect(contextOf(session).criticalDistanceM).toBeCloseTo(0.057 * Math.sqrt(volumeM3 / 2), 12);
    const times = reverberationFromSurfaces(session);
    if (times.kind !== 'times') throw new Error(times.what.join());
    const low = times.bands.find(({ frequencyHz }) => frequencyHz === 125);
    // At 125 Hz the air takes next to nothing.
    expect(low?.sabineS).toBeCloseTo((0.161 * volumeM3) / (0.1 * surfaceM2), 1);
    expect(low?.eyringS).toBeCloseTo((0.161 * volumeM3) / (-Math.log(0.9) * surfaceM2), 1);
  });
});

describe('a rectangle as faces', () => {
  it('has every figure of the box, to a billionth', () => {
    const random = seededRandom(40);
    for (let i = 0; i < 300; i++) {
      const [widthM, depthM, heightM] = [4 + 20 * random(), 5 + 30 * random(), 2.5 + 12 * random()];
      const surfaces = ['floor', 'ceiling', 'left', 'right', 'front', 'back'].map((surface) => ({
        surface,
        absorption: random(),
      }));
      const session = hall({
        ...{ widthM, depthM, heightM, surfaces },
        origin: { x: widthM * random(), y: depthM * random() },
      });
      const box = roomOf(session);
      const faces = facesOf(session);
      if (!box || 'faces' in box) throw new Error('a plain box is expected');
      const [source, receiver] = [pointIn(session, random), pointIn(session, random)];
      const axis = vec(0, 1, 0);
      const heard = { position: receiver, axis, patternA: random() };
      const [plain, faced] = [box, faces].map(
        (room) => earlyReflections(room, source, heard, SPEED) ?? [],
      );
      expect(faced).toHaveLength(24);
      plain?.forEach((one, k) => {
        const other = faced?.[k];
        expect(other?.delayMs).toBeCloseTo(one.delayMs, 9);
        expect(other?.levelDb).toBeCloseTo(one.levelDb, 9);
        expect(other?.gain).toBeCloseTo(one.gain, 9);
      });
      expect(hallShape(session)?.volumeM3).toBeCloseTo(widthM * depthM * heightM, 9);
    }
  });

  it('is what its corners say: typed as a shape it is a plain box again', () => {
    const session = octagon();
    const corners = [
      { x: -3, y: -4 },
      { x: 5, y: -4 },
      { x: 5, y: 9 },
      { x: -3, y: 9 },
    ];
    expect(withPlanCorners(session.venue, corners)).toMatchObject({
      shape: null,
      widthM: 8,
      depthM: 13,
      origin: { x: 3, y: 4 },
    });
  });
});

/** An L: what is round its corner is not seen. */
const L_HALL = hall({
  widthM: 10,
  depthM: 10,
  heightM: 5,
  origin: { x: 0, y: 0 },
  shape: { corners: outlineOf('L', 10, 10) },
});

describe('an L', () => {
  it('has the volume of its floor, and no first reflection through its corner', () => {
    expect(hallMeasures(L_HALL.venue)?.volumeM3).toBeCloseTo(5 * 80, 9);
    const room = facesOf(L_HALL);
    const [low, round] = [vec(5.5, 1, 1.5), vec(9, 9, 1.5)];
    expect(facesCrossed(room.faces, low, round).map(({ id }) => id)).toEqual(['wall 2', 'wall 3']);
    // Over the wall behind the stage it is seen, over the floor not.
    const ways = waysOverFaces(room, low, round, 1).map(({ surfaces }) => surfaces.join());
    expect(ways).not.toContain('floor');
    expect(ways).toContain('wall 6');
    expect(isInside(room, vec(8, 2, 1))).toBe(false);
  });
});

describe('a ridge', () => {
  const pitched = hall({
    widthM: 10,
    depthM: 12,
    heightM: 9,
    origin: { x: 5, y: 4 },
    ceiling: { kind: 'pitched', eavesM: 5, ridge: 'along', ridgeAtM: null },
  });

  it('has volume and surface of the closed forms', () => {
    const slope = Math.hypot(5, 4);
    const { volumeM3, surfaceM2 } = hallMeasures(pitched.venue) ?? {};
    expect(volumeM3).toBeCloseTo(10 * 12 * 7, 9);
    expect(surfaceM2).toBeCloseTo(10 * 12 + 2 * 12 * slope + 2 * 12 * 5 + 2 * (10 * 7), 9);
  });

  it('is as high as its slope says, and a cut shows it', () => {
    const room = facesOf(pitched);
    expect(isInside(room, vec(0, 0, 8.9))).toBe(true);
    expect(isInside(room, vec(4, 0, 8.9))).toBe(false);
    expect(isInside(room, vec(4, 0, 5.79))).toBe(true);
    const cut = sectionAt(room.faces, 2.5).filter(({ id }) => id.startsWith('ceiling'));
    expect(cut.map(({ from, to }) => [from.y, to.y])).toEqual([[7, 7]]);
  });

  it('stands where it is said to be', () => {
    const shed = hall({
      ...{ widthM: 10, depthM: 12, heightM: 9, origin: { x: 5, y: 4 } },
      ceiling: { kind: 'pitched', eavesM: 5, ridge: 'along', ridgeAtM: 10 },
    });
    expect(hallMeasures(shed.venue)?.volumeM3).toBeCloseTo(10 * 12 * 7, 9);
    expect(isInside(facesOf(shed), vec(4.9, 0, 8.9))).toBe(true);
    expect(isInside(facesOf(shed), vec(0, 0, 7.1))).toBe(false);
  });
});

describe('steps, stage, seats and a balcony', () => {
  const session = hall({
    widthM: 20,
    depthM: 30,
    heightM: 10,
    origin: { x: 10, y: 20 },
    stage: { widthM: 12, depthM: 8, heightM: 1 },
    ceiling: { kind: 'stepped', steps: [{ fromM: 20, heightM: 7 }] },
    seats: [
      { id: 's', name: 'Stalls', x: 0, y: -4, columns: 20, pitchM: 0.5, rows: 11, riseM: 0.2 },
    ],
    obstacles: [
      { id: 'b', name: 'Balcony', kind: 'balcony', x: 0, y: -18, widthM: 20, depthM: 4 },
    ].map((each) => ({ ...each, heightM: 1, baseM: 4 })),
  });
  const room = facesOf(session);

  it('take their volumes from the hall, and give their faces to it', () => {
    const prism = 20 * 20 * 10 + 20 * 10 * 7;
    const stage = 12 * 8 * 1;
    const seats = (10 * (10 * 0.9) * (10 * 0.2)) / 2;
    const balcony = 20 * 4 * 1;
    expect(hallMeasures(session.venue)?.volumeM3).toBeCloseTo(prism - stage - seats - balcony, 6);
    const areas = new Map((surfacesOf(session.venue, 1000) ?? []).map((s) => [s.id, s.areaM2]));
    expect(areas.get('floor')).toBeCloseTo(600 - 96 - 10 * 9, 6);
    expect(areas.get('stage')).toBeCloseTo(96, 9);
    expect(areas.get('ceiling, step 1')).toBeCloseTo(20 * 3, 9);
    expect(areas.get('Balcony, underside')).toBeCloseTo(80, 9);
    expect(areas.get('Balcony, front')).toBeUndefined();
    expect(areas.get('Balcony, back')).toBeCloseTo(20, 9);
  });

  it('are not in the hall themselves, and what is in them comes up', () => {
    expect(isInside(room, vec(0, 2, 0.5))).toBe(false);
    expect(isInside(room, vec(0, 2, 1.5))).toBe(true);
    expect(isInside(room, vec(0, -18, 4.5))).toBe(false);
    expect(isInside(room, vec(0, 5, 8))).toBe(false);
    for (const at of [vec(0, 2, 0.5), vec(0, 5, 30), vec(40, 2, 2), vec(0, -18, 4.5)]) {
      const moved = { ...at, ...broughtIn(session, at) };
      expect(isInside(room, moved), JSON.stringify(moved)).toBe(true);
    }
  });

  it('hide what is behind them', () => {
    expect(isFaceBetween(room, vec(0, 2, 2), vec(0, -19, 5.5))).toBe(true);
    expect(isFaceBetween(room, vec(0, 2, 2), vec(0, -10, 3))).toBe(false);
    // The underside of a balcony answers to who sits below it.
    const below = waysOverFaces(room, vec(0, 2, 2), vec(0, -18, 3.8), 1);
    expect(below.map(({ surfaces }) => surfaces[0])).toContain('Balcony, underside');
  });
});

describe('curtains and people', () => {
  const bare = { widthM: 10, depthM: 20, heightM: 5, origin: { x: 5, y: 10 } };
  const of = (areas: unknown[], surface = 'left'): number | null | undefined =>
    surfacesOf(
      hall({ ...bare, surfaces: [{ surface: 'left', absorption: 0.1 }], areas }).venue,
      1000,
    )?.find(({ id }) => id === surface)?.absorption;
  const curtain = { id: 'c', surface: 'left', areaM2: 50, absorption: 0.7 };

  it('take their part of what they are on, and go when they are switched off', () => {
    // Half of a wall of 100 m².
    expect(of([curtain])).toBeCloseTo(0.4, 12);
    expect(of([{ ...curtain, on: false }])).toBeCloseTo(0.1, 12);
    expect(of([{ ...curtain, areaM2: 500 }])).toBeCloseTo(0.7, 12);
    expect(of([curtain], 'right')).toBeNull();
  });
});

describe('reciprocity', () => {
  it('holds in a thousand halls: both ways round there are as many images, as far', () => {
    const random = seededRandom(1000);
    for (let i = 0; i < 1000; i++) {
      const name = OUTLINES[Math.floor(random() * OUTLINES.length)] ?? 'octagon';
      const [w, d] = [6 + 20 * random(), 6 + 30 * random()];
      const heightM = 3 + 10 * random();
      const session = hall({
        ...{ widthM: w, depthM: d, heightM, origin: { x: w / 2, y: d / 2 } },
        ...withOutline(name, w, d),
        ...(random() < 0.4 ? { ceiling: { kind: 'pitched', eavesM: heightM * 0.7 } } : {}),
        stage: { widthM: w / 3, depthM: d / 4, heightM: random() < 0.3 ? 0.8 : 0 },
      });
      const room = facesOf(session);
      const [a, b] = [pointIn(session, random), pointIn(session, random)];
      const far = (from: Vec3, to: Vec3): string =>
        waysOverFaces(room, from, to)
          .map(({ image }) => distance(image, to).toFixed(6))
          .sort()
          .join();
      expect(far(a, b), `${name} ${i}`).toBe(far(b, a));
    }
  });
});

function withOutline(name: (typeof OUTLINES)[number], w: number, d: number) {
  const corners = outlineOf(name, w, d);
  const [widthM, depthM] = [
    Math.max(...corners.map(({ x }) => x)),
    Math.max(...corners.map(({ y }) => y)),
  ];
  return { shape: { corners }, widthM, depthM };
}

describe('a file', () => {
  const read = (venue: unknown) => readSession({ format: 'rotunda-session', version: 2, venue });
  const problem = (venue: unknown): string => {
    const result = read(venue);
    if (result.ok) return 'read';
    return result.problems.map(({ path, message }) => `${path}: ${message}`).join('; ');
  };
  const base = { widthM: 12, depthM: 12, heightM: 8 };

  it('without a shape is a rectangle', () => {
    const result = read(base);
    expect(result.ok && result.session.venue).toMatchObject({
      shape: null,
      ceiling: { kind: 'flat' },
      areas: [],
    });
  });

  it('names the corner that is wrong', () => {
    const crossing: PlanPoint[] = [
      { x: 0, y: 0 },
      { x: 12, y: 12 },
      { x: 12, y: 0 },
      { x: 0, y: 12 },
    ];
    expect(problem({ ...base, shape: { corners: crossing } })).toContain(
      'venue.shape.corners[2]: ',
    );
    expect(problem({ ...base, widthM: 13, shape: { corners: OCTAGON } })).toContain(
      'venue.widthM: 13; allowed: 12 m, as wide as the box around the corners',
    );
    const beside = OCTAGON.map(({ x, y }) => ({ x: x + 1, y }));
    expect(problem({ ...base, widthM: 13, shape: { corners: beside } })).toContain(
      'begins at 1 m, 0 m',
    );
    expect(problem({ ...base, ceiling: { kind: 'pitched', eavesM: 8 } })).toContain(
      'venue.ceiling.eavesM: 8; allowed: up to 7.95 m, below the ridge',
    );
    expect(
      problem({ ...base, ceiling: { kind: 'stepped', steps: [{ fromM: 2, heightM: 9 }] } }),
    ).toContain('venue.ceiling.steps[0].heightM');
    expect(problem({ ...base, heightM: null, ceiling: { kind: 'stepped', steps: [] } })).toContain(
      'venue.heightM',
    );
  });
});

describe('corners on the plan', () => {
  it('come back where they were, and nothing else moves', () => {
    const { venue } = octagon();
    const corners = planCorners(venue) ?? [];
    const moved = corners.map((corner, i) => (i === 6 ? { x: -9, y: corner.y } : corner));
    const changed = { ...venue, ...withPlanCorners(venue, moved) };
    expect(planCorners(changed)).toEqual(moved);
    expect(changed.widthM).toBe(15);
    expect(changed.origin).toEqual({ x: 9, y: 6 });
  });

  it('are stretched with the width, and become a rectangle without one', () => {
    const { venue } = octagon();
    const wide = stretched(venue, 24, 12);
    expect(wide.shape?.corners[2]?.x).toBeCloseTo(24, 9);
    expect(wide.shape?.corners[2]?.y).toBeCloseTo(APOTHEM - SIDE, 3);
    expect(stretched(venue, null, 12)).toEqual({ shape: null, widthM: null, depthM: 12 });
  });

  it('hold every corner of the stage that the demo has', () => {
    const corners = planCorners(octagon().venue) ?? [];
    expect(insidePolygon({ x: 4, y: 4 }, corners)).toBe(true);
  });
});
