import { describe, expect, it } from 'vitest';
import { newSource, sessionFrom } from '../session';
import {
  bentToFit,
  partsOfGroup,
  playerGroups,
  playerMarks,
  sectionPlaces,
  sectionSources,
  seenWidth,
  stageFor,
  TEMPLATES,
  fromTemplate,
  withStage,
} from '.';
import { sectionFrom } from '../session';

const shortsOf = (...groups: (readonly [name: string, players: number])[]): string[] => {
  const sources = groups.flatMap(([group, players], g) =>
    Array.from({ length: players }, (_, i) =>
      newSource({ id: `${g}-${i}`, name: `${group} ${i}`, group }),
    ),
  );
  return [...playerMarks(playerGroups(sources)).values()].map(({ short }) => short);
};

describe('a large section', () => {
  const choir = (names: readonly string[], kind = 'voice') => {
    const sources = names.map((name, i) => newSource({ id: `${i}`, name, kind, group: 'Choir' }));
    const [group] = playerGroups(sources);
    if (!group) throw new Error('a section');
    return partsOfGroup(group, sources).map(({ name, members }) => [name, members.length]);
  };
  const numbered = (name: string, count: number) =>
    Array.from({ length: count }, (_, i) => `${name} ${i + 1}`);

  it('is looked at by its parts, a small one as a whole', () => {
    const parts = [...numbered('Soprano', 6), ...numbered('Alto', 5), ...numbered('Bass', 4)];
    expect(choir(parts)).toEqual([
      ['Soprano', 6],
      ['Alto', 5],
      ['Bass', 4],
    ]);
    expect(choir(parts.slice(3, 10))).toEqual([['Choir', 7]]);
    expect(choir(numbered('Choir', 40))).toEqual([['Choir', 40]]);
    // Everybody by a name of his own, and all of one voice: there are no parts.
    expect(choir(numbered('x', 20).map((name) => name.replace(' ', '')))).toEqual([['Choir', 20]]);
  });
});

describe('short marks', () => {
  it('are those of a score', () => {
    expect(shortsOf(['Violin I', 1], ['Violins II', 2], ['Violas', 1], ['Cello', 1])).toEqual([
      'Vn I',
      'Vn II 1',
      'Vn II 2',
      'Va',
      'Vc',
    ]);
    expect(shortsOf(['Sopranos', 1], ['Altos', 1], ['Double basses', 1], ['Basses', 1])).toEqual([
      'S',
      'A',
      'Db',
      'B',
    ]);
  });

  it('tell apart what begins alike, and what a score would write alike', () => {
    expect(shortsOf(['Claves', 1], ['Clappers', 1], ['Clavichord', 1])).toEqual([
      'Clave',
      'Clap',
      'Clavi',
    ]);
    expect(shortsOf(['Violin', 1], ['Violins', 1], ['violin', 1])).toEqual(['Vn', 'Vn.2', 'Vn.3']);
  });

  it('are never the same twice, whatever the sections are called', () => {
    const names = ['A', 'a', 'Aa', 'Alto', 'Altos', '', ' ', '1', 'Violin I', 'Violin, I', '🎻'];
    const marks = shortsOf(...names.map((name) => [name, 2] as const));
    expect(new Set(marks.map((mark) => mark.toLowerCase())).size).toBe(marks.length);
    for (const { id } of TEMPLATES) {
      const template = TEMPLATES.find((entry) => entry.id === id);
      let next = 0;
      const { sources } = fromTemplate(template ?? TEMPLATES[0]!, () => `${(next += 1)}`);
      const all = [...playerMarks(playerGroups(sources)).values()].map(({ short }) => short);
      expect(new Set(all).size, id).toBe(all.length);
    }
  });

  it('and a number after a number is set apart in a name', () => {
    const named = (name: string) =>
      sectionSources(sectionFrom({ name, kind: 'violin', count: 3 }), () => 'x')[2]?.name;
    expect([named('Violin I'), named('Viola'), named('Choir 2')]).toEqual([
      'Violin I, 3',
      'Viola 3',
      'Choir 2, 3',
    ]);
  });
});

describe('players in a narrow hall', () => {
  const row = (count: number, pitchM: number) =>
    Array.from({ length: count }, (_, i) =>
      newSource({ id: `${i}`, x: (i - (count - 1) / 2) * pitchM, y: 3, facingDeg: 180 }),
    );

  it('bend their row until it fits, neighbours as far apart as before', () => {
    const before = row(11, 1);
    const bent = bentToFit(before, 4);
    expect(Math.max(...bent.map(({ x }) => Math.abs(x)))).toBeCloseTo(4, 3);
    expect(Math.min(...bent.map(({ y }) => y))).toBeCloseTo(3, 3);
    for (const [i, source] of bent.slice(1).entries()) {
      const last = bent[i];
      const apart = last ? Math.hypot(source.x - last.x, source.y - last.y) : 0;
      expect(apart).toBeGreaterThan(0.98);
      expect(apart).toBeLessThanOrEqual(1.001);
    }
    // The ends come forward and turn inwards, the middle stays as it faced.
    expect(bent[5]?.facingDeg).toBe(180);
    expect(bent[0]?.y ?? 9).toBeLessThan(bent[5]?.y ?? 0);
    expect(bent[0]?.facingDeg).toBeGreaterThan(90);
    expect(bent[0]?.facingDeg).toBeLessThan(180);
    expect(bent[10]?.facingDeg).toBeLessThan(-90);
  });

  it('stay where they fit, and stand closer where even a half circle is too wide', () => {
    const before = row(5, 1);
    expect(bentToFit(before, 2)).toBe(before);
    expect(bentToFit(before, Infinity)).toBe(before);
    expect(bentToFit([], 1)).toEqual([]);
    const tight = bentToFit(row(21, 1), 2);
    expect(Math.max(...tight.map(({ x }) => Math.abs(x)))).toBeCloseTo(2, 2);
  });
});

describe('the stage', () => {
  const venue = sessionFrom({}).venue;

  it('grows to hold the players and a step, and its tape points go with it', () => {
    const { stage, datumPoints } = stageFor(venue, [{ x: -6.2, y: 8, widthM: 0 }]);
    expect(stage).toEqual({ widthM: 13.5, depthM: 8.5, heightM: 0 });
    expect(datumPoints.map(({ x, y }) => [x, y])).toEqual([
      [-6.75, 8.5],
      [6.75, 8.5],
    ]);
  });

  it('stays as it is for those who fit, and within the hall', () => {
    expect(stageFor(venue, [{ x: 2, y: 3, widthM: 1 }]).stage).toEqual(venue.stage);
    expect(stageFor(venue, []).stage).toEqual(venue.stage);
    expect(stageFor(venue, [{ x: 300, y: 300, widthM: 0 }]).stage).toEqual({
      widthM: 200,
      depthM: 200,
      heightM: 0,
    });
    const small = { ...venue, widthM: 12, depthM: 20, origin: { x: 5.5, y: 10 } };
    expect(stageFor(small, [{ x: 9, y: 30, widthM: 0 }]).stage).toEqual({
      widthM: 11,
      depthM: 10,
      heightM: 0,
    });
  });

  it('moves only the tape points that stand at its corners', () => {
    const own = { id: 'c', name: 'C', x: 1, y: 1, z: 0 };
    const moved = withStage(
      { ...venue, datumPoints: [...venue.datumPoints, own] },
      { widthM: 4, depthM: 3, heightM: 0 },
    );
    expect(moved.datumPoints.map(({ x, y }) => [x, y])).toEqual([
      [-2, 3],
      [2, 3],
      [1, 1],
    ]);
  });
});

describe('a section of one row', () => {
  it('stands on its riser; the first of several stands on the floor', () => {
    const floors = (rows: number) => [
      ...new Set(
        sectionPlaces(sectionFrom({ count: 6, rows, riserM: 0.2, shape: 'rows', pitchM: 0.8 })).map(
          ({ floorM }) => floorM,
        ),
      ),
    ];
    expect(floors(1)).toEqual([0.2]);
    expect(floors(3)).toEqual([0, 0.2, 0.4]);
  });
});

describe('how wide an instrument is seen', () => {
  const grand = (facingDeg: number) => newSource({ x: 0, y: 4, widthM: 1.5, facingDeg });
  const from = { x: 0, y: 0 };

  it('is its whole width from before it, and nothing from its end', () => {
    const before = seenWidth(grand(180), from);
    expect(before.widthM).toBeCloseTo(1.5, 9);
    expect(before.angleDeg).toBeCloseTo((2 * Math.atan(0.75 / 4) * 180) / Math.PI, 9);
    const end = seenWidth(grand(90), from);
    expect(end.widthM).toBeCloseTo(0, 9);
    expect(end.angleDeg).toBeCloseTo(0, 9);
  });

  it('is what is left of it between the two', () => {
    expect(seenWidth(grand(135), from).widthM).toBeCloseTo(1.5 * Math.SQRT1_2, 9);
    expect(seenWidth(grand(180), { x: 4, y: 4 }).widthM).toBeCloseTo(0, 9);
  });
});
