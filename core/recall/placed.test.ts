import { describe, expect, it } from 'vitest';
import { floorUnder } from '../ensembles/anatomy';
import { twoTapes } from '../rig/two-tapes';
import { sessionFrom, type Mark, type Session } from '../session';
import { sinDeg, cosDeg } from '../units/guard';
import { seededRandom } from '../units/random';
import { markOf, marksOf, measuredText, tapesText } from './marks';
import { offersFor, withMark } from './offers';
import { againstOf, placedAtInstrument, placedInHall, rigidFit } from './placed';
import { ageText, isSameHall, ratingText } from './words';

const NOW = '2026-12-01T12:00:00.000Z';

const hall = (rest: object = {}): Session =>
  sessionFrom({
    id: 'then',
    title: 'Then',
    venue: {
      name: 'Tithe Barn',
      widthM: 12,
      depthM: 20,
      heightM: 8,
      origin: { x: 6, y: 12 },
      datumPoints: [
        { id: 'a', name: 'A', x: -5, y: 6 },
        { id: 'b', name: 'B', x: 5, y: 6 },
      ],
    },
    sources: [{ id: 'p', name: 'Grand', kind: 'grand piano', x: 1, y: 2, facingDeg: 170 }],
    arrays: [
      {
        id: 'main',
        name: 'Main pair',
        role: 'main',
        x: 0.4,
        y: -1.2,
        z: 2.8,
        aimDeg: 10,
        tiltDeg: -15,
      },
    ],
    ...rest,
  });

const entered = (said: ReturnType<typeof markOf>, at = '2025-10-01T10:00:00.000Z'): Mark => ({
  ...said,
  ...{ id: 'm', at, strikes: '', amends: '' },
});

const marked = (session: Session, rating: number | null = 4): Mark => {
  const [array] = session.arrays;
  if (!array) throw new Error('no array');
  return entered(markOf(session, { at: array, array, made: 'plan', name: 'Here', rating }));
};

/** The same hall in another plan: its datum moved, and the plan turned where it is by tape points. */
function moved(session: Session, by: { x: number; y: number }, turnDeg = 0): Session {
  const to = ({ x, y }: { x: number; y: number }): { x: number; y: number } => ({
    x: x * cosDeg(turnDeg) + y * sinDeg(turnDeg) - by.x,
    y: -x * sinDeg(turnDeg) + y * cosDeg(turnDeg) - by.y,
  });
  const { venue } = session;
  return {
    ...session,
    id: 'now',
    venue: {
      ...venue,
      origin: venue.origin && { x: venue.origin.x + by.x, y: venue.origin.y + by.y },
      datumPoints: venue.datumPoints.map((point) => ({ ...point, ...to(point) })),
    },
  };
}

describe('a mark in another plan', () => {
  it('is found by tape points, however the plan lies', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 300; i++) {
      const then = hall();
      then.venue.origin = null;
      then.venue.datumPoints.forEach((point) => {
        point.x += random() * 4 - 2;
        point.y += random() * 4 - 2;
      });
      const turn = random() * 360 - 180;
      const now = moved(then, { x: random() * 6, y: random() * 6 }, turn);
      const mark = marked(then);
      const placed = placedInHall(mark, now.venue, 'metric');
      if (!placed.ok) throw new Error(placed.message);
      expect(placed.by).toBe('tape points');
      const [a, b] = now.venue.datumPoints;
      const [c, d] = then.venue.datumPoints;
      const [was, is] = [
        twoTapes({ x: mark.x ?? 0, y: mark.y ?? 0 }, c as never, d as never),
        twoTapes(placed, a as never, b as never),
      ];
      expect(is.fromFirstM).toBeCloseTo(was.fromFirstM, 9);
      expect(is.fromSecondM).toBeCloseTo(was.fromSecondM, 9);
      expect(Math.cos(((placed.turnDeg - turn) * Math.PI) / 180)).toBeCloseTo(1, 9);
    }
  });

  it('is found by the walls where the datum has moved, and measured from the new one', () => {
    const then = hall();
    const now = hall();
    now.venue.origin = { x: 5, y: 10.5 };
    now.venue.datumPoints = [
      { id: 'a', name: 'Pillar', x: -4, y: 3, z: 0 },
      { id: 'b', name: 'Door', x: 4, y: 3, z: 0 },
    ];
    const placed = placedInHall(marked(then), now.venue, 'metric');
    expect(placed).toMatchObject({ ok: true, by: 'walls', notes: [] });
    if (!placed.ok) return;
    expect(placed.x).toBeCloseTo(1.4, 12);
    expect(placed.y).toBeCloseTo(0.3, 12);
    // √(5.4² + 2.7²) and √(2.6² + 2.7²)
    expect(tapesText(now.venue, placed, 'metric')).toBe(
      '6.04 m from Pillar, 3.75 m from Door (downstage), 2.80 m up',
    );
  });

  it('says where tape points were moved, and that it goes by the walls', () => {
    const now = hall();
    now.venue.datumPoints.forEach((point) => (point.y -= 1));
    const placed = placedInHall(marked(hall()), now.venue, 'metric');
    expect(placed).toMatchObject({ ok: true, by: 'walls', y: -1.2 });
    if (placed.ok)
      expect(placed.notes.join()).toMatch(/By the tape points A and B .* 1\.00 m away/);
  });

  it('is not guessed from points of the same name that are others', () => {
    const now = hall();
    now.venue.origin = null;
    now.venue.datumPoints.forEach((point) => (point.x *= 1.3));
    const placed = placedInHall(marked(hall()), now.venue, 'metric');
    expect(placed.ok).toBe(false);
    if (!placed.ok) expect(placed.message).toMatch(/A and B stand otherwise .* by up to 1\.50 m/);
    now.venue.datumPoints = [];
    expect(placedInHall(marked(hall()), now.venue, 'metric')).toMatchObject({ ok: false });
  });

  it('says a hall of another size, and a place outside its walls', () => {
    const now = hall();
    now.venue.widthM = 13;
    now.venue.depthM = 8;
    now.venue.origin = { x: 6, y: 0.5 };
    const placed = placedInHall(marked(hall()), now.venue, 'metric');
    expect(placed.ok && placed.notes).toEqual([
      'The hall is 13.00 m wide here, 12.00 m then and 8.00 m deep here, 20.00 m then: measure it again.',
      'It is outside the walls of this plan.',
      expect.stringMatching(/^By the tape points A and B it would be 11\.50 m away/),
    ]);
  });

  it('stands as it did against an instrument that is elsewhere and turned', () => {
    const random = seededRandom(5);
    for (let i = 0; i < 200; i++) {
      const then = hall();
      const mark = marked(then);
      const source = {
        ...(then.sources[0] as Session['sources'][number]),
        x: random() * 10 - 5,
        y: random() * 10 - 5,
        facingDeg: random() * 360 - 180,
      };
      const placed = placedAtInstrument(mark, source, floorUnder(source));
      if (!placed.ok) throw new Error(placed.message);
      const own = againstOf(source, placed);
      expect(own.right).toBeCloseTo(mark.against?.right ?? NaN, 9);
      expect(own.ahead).toBeCloseTo(mark.against?.ahead ?? NaN, 9);
      const [x, y] = [mark.x ?? 0, mark.y ?? 0];
      expect(Math.hypot(placed.x - source.x, placed.y - source.y)).toBeCloseTo(
        Math.hypot(x - 1, y - 2),
        9,
      );
      expect(placed.z).toBeCloseTo(2.8, 9);
    }
  });

  it('is refused a direction where the points are one', () => {
    expect(
      rigidFit([
        [
          { x: 0, y: 0 },
          { x: 1, y: 1 },
        ],
      ]),
    ).toBeNull();
    expect(
      rigidFit([
        [
          { x: 0, y: 0 },
          { x: 1, y: 1 },
        ],
        [
          { x: 0.1, y: 0 },
          { x: 1.1, y: 1 },
        ],
      ]),
    ).toBeNull();
  });
});

describe('what is offered', () => {
  const then = (): Session => {
    const session = hall();
    return { ...session, marks: [marked(session)] };
  };
  const fresh = (rest: object = {}): Session => {
    const session = hall({ id: 'now', title: 'Now', ...rest });
    return session;
  };

  it('comes first with its age, its rating and its tapes', () => {
    const [offer] = offersFor(fresh(), marksOf(then()), NOW);
    // √(5.4² + 7.2²) = 9, √(4.6² + 7.2²) = 8.544
    expect(offer?.words).toBe(
      'Last here: 14 months ago, 4 of 5, stands 9.00 m from A, 8.54 m from B (downstage), 2.80 m up.',
    );
    expect(offer?.same).toBe('hall and instrument');
    expect(offersFor(then(), marksOf(then()), NOW)).toEqual([]);
  });

  it('is that of the hall before that of the instrument, and what did not work comes last', () => {
    const other = hall({ id: 'other', title: 'Other' });
    other.venue.name = 'Mill Room';
    const poor = { ...marked(hall(), 1), id: 'poor' };
    const marks = [
      ...marksOf({ id: 'x', title: 'X', marks: [poor] }),
      ...marksOf({ ...other, marks: [{ ...marked(other, 5), id: 'inst' }] }),
      ...marksOf(then()),
    ];
    const offers = offersFor(fresh(), marks, NOW);
    expect(offers.map(({ same, poor: bad }) => [same, bad])).toEqual([
      ['hall and instrument', false],
      ['instrument', false],
      ['hall and instrument', true],
    ]);
    // By hand: 0.6 m left of it and 3.2 m downstage, of one that faces 10° off the audience, 20 cm up.
    expect(offers[1]?.words).toBe(
      'At Grand, Mill Room: 14 months ago, 5 of 5, stands 1.15 m to its right, 3.05 m ahead of it, 2.60 m above its floor.',
    );
  });

  it('is put up in one go, as it stood, in the place of the pair that nobody touched', () => {
    const now = sessionFrom({
      id: 'now',
      venue: hall().venue,
      arrays: [{ id: 'one', name: 'Main pair', role: 'main', x: 0, y: -0.5, z: 2.7 }],
    });
    const [known] = marksOf(then());
    if (!known) throw new Error('no mark');
    const placed = placedInHall(known.mark, now.venue, 'metric');
    if (!placed.ok) throw new Error(placed.message);
    const put = withMark(now, known, placed, null, 'new');
    expect(put?.session.arrays).toHaveLength(1);
    expect(put?.session.arrays[0]).toMatchObject({
      id: 'one',
      x: 0.4,
      y: -1.2,
      z: 2.8,
      aimDeg: 10,
    });
    // Beside one that is in use it gets a name of its own.
    const again = withMark(put?.session ?? now, known, placed, null, 'new');
    expect(again?.session.arrays.map(({ name }) => name)).toEqual(['Main pair', 'Main pair 2']);
    // Where only the place is known, the array that is named goes there as it is aimed.
    const bare = { ...known, mark: { ...known.mark, array: null } };
    expect(
      withMark(put?.session ?? now, bare, { ...placed, z: 3 }, 'one', 'new')?.session.arrays[0],
    ).toMatchObject({ z: 3, aimDeg: 10 });
    expect(withMark({ ...now, arrays: [] }, bare, placed, null, 'new')).toBeNull();
  });

  it('keeps nothing that belongs to its own session', () => {
    const session = hall();
    const [array] = session.arrays;
    if (!array) throw new Error('no array');
    array.for = { kind: 'some', groups: [], sources: ['p'] };
    array.equipment.microphoneIds = ['k1', 'k2'];
    const said = markOf(session, { at: array, array, made: 'plan', name: 'Here' });
    expect(said.instrument).toBe('grand piano');
    expect(said.array).toMatchObject({ for: null, measuredFrom: null });
    expect(said.array?.equipment.microphoneIds).toEqual([]);
  });
});

describe('words of marks', () => {
  it('tell how long ago it was, and what is to come', () => {
    const ago = (days: number): string =>
      ageText(new Date(Date.parse(NOW) - days * 86_400_000).toISOString(), NOW);
    expect([0, 1, 5, 59, 61, 425, 1500].map(ago)).toEqual([
      ...['today', 'yesterday', '5 days ago', '59 days ago', '2 months ago', '14 months ago'],
      '4 years ago',
    ]);
    expect(ago(-1)).toBe('tomorrow');
    expect(ago(-11)).toBe('in 11 days');
    expect(ageText('never', NOW)).toBe('');
    expect(ageText('2026-12-01', '2026-12-01T23:00:00.000Z')).toBe('today');
  });

  it('tell a hall by its name without case, accents and signs', () => {
    expect(isSameHall('Tithe  barn', 'TITHE-BARN')).toBe(true);
    expect(isSameHall('Église', 'eglise')).toBe(true);
    expect(isSameHall('', '')).toBe(false);
    expect(ratingText(3.5)).toBe('3.5 of 5');
    expect(ratingText(null)).toBe('not rated');
  });

  it('measure from what is fixed, in the units of the session', () => {
    const session = hall();
    const strings = session.sources[0];
    if (!strings) throw new Error('no piano');
    const said = markOf(session, {
      at: { x: strings.x, y: strings.y, z: 1.3 },
      made: 'hand',
      name: 'Over the strings',
    });
    expect(measuredText(said, 'metric')).toMatch(
      /^7\.21 m from A, 5\.66 m from B, 1\.30 m up, [\d.]+ (cm|m) above the \w+ of Grand/,
    );
    expect(measuredText(said, 'imperial')).toMatch(/^23′ 8″ from A/);
  });
});
