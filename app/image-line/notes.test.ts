import { describe, expect, it } from 'vitest';
import { analyseSession } from '../../core/analysis';
import type { Session } from '../../core/session';
import { demoSession } from '../../core/demo';
import { badgesOf, groupsOf } from '../parts/groups';
import { asideOf, createStaves, crowdedHeads, labelsOf } from './notes';

const demo = demoSession('2026-11-23T12:00:00.000Z');

function stavesOf(session: Session, make = createStaves()) {
  const groups = groupsOf(session.sources);
  const figures = analyseSession(session).arrays[0]?.sources ?? [];
  const bySource = new Map(figures.map((source) => [source.id, source]));
  return {
    bySource,
    staves: make(
      session.sources,
      { groups, badges: badgesOf(groups) },
      bySource,
      session.settings.model,
    ),
  };
}

describe('staves', () => {
  it('have one line a section and one note a player', () => {
    const { staves } = stavesOf(demo);
    expect(staves.map(({ group, notes }) => [group.name, notes.length])).toEqual([
      ['Flute', 1],
      ['Oboes', 2],
      ['Clarinets', 2],
      ['Horns', 2],
      ['Bassoons', 2],
    ]);
  });

  it('place a note by the leading model, with the spread of all and the extent of wide ones', () => {
    const { staves, bySource } = stavesOf(demo);
    for (const note of staves.flatMap(({ notes }) => notes)) {
      const image = bySource.get(note.id)?.image;
      expect(note.shift).toBe(image?.consensus?.shift);
      expect(note.low).toBeLessThanOrEqual(note.shift ?? NaN);
      expect(note.high).toBeGreaterThanOrEqual(note.shift ?? NaN);
    }
    const flute = staves[0]?.notes[0];
    expect((flute?.right ?? 0) - (flute?.left ?? 0)).toBeGreaterThan(0.01);
  });

  it('lead by the traded cues where the tangent law is refused', () => {
    const tangent: Session = { ...demo, settings: { ...demo.settings, model: 'tangent' } };
    const [note] = stavesOf(tangent).staves[0]?.notes ?? [];
    const [traded] = stavesOf(demo).staves[0]?.notes ?? [];
    expect(note?.shift).toBe(traded?.shift);
  });

  it('set antiphase and players without a figure apart', () => {
    const technique = { kind: 'pair', pattern: 0, spacingM: 0, includedAngleDeg: 90 } as const;
    const [main] = demo.arrays;
    if (!main) throw new Error('the demo has a pair');
    const beside: Session = {
      ...demo,
      arrays: [{ ...main, tiltDeg: 0, technique }],
      sources: demo.sources.map((s, i) => (i === 0 ? { ...s, x: 6, y: -0.4 } : s)),
    };
    const [note] = stavesOf(beside).staves[0]?.notes ?? [];
    expect(note).toMatchObject({ antiphase: true, shift: null, missing: false });
    const groups = groupsOf(demo.sources);
    const staves = createStaves()(
      demo.sources,
      { groups, badges: badgesOf(groups) },
      new Map(),
      'traded',
    );
    expect(staves[0]?.notes[0]).toMatchObject({ missing: true, shift: null });
  });

  it('hand out the same note while nothing about it changes', () => {
    const make = createStaves();
    const groups = groupsOf(demo.sources);
    const grouping = { groups, badges: badgesOf(groups) };
    const { bySource } = stavesOf(demo);
    const first = make(demo.sources, grouping, bySource, 'traded');
    const again = make(demo.sources, grouping, new Map(bySource), 'traded');
    const added = make(demo.sources, grouping, bySource, 'added');
    expect(again[2]?.notes[0]).toBe(first[2]?.notes[0]);
    expect(added[2]?.notes[0]).not.toBe(first[2]?.notes[0]);
  });
});

const stave = (places: readonly (readonly [label: string, shift: number | null])[]) => {
  const group = {
    name: 'Kit',
    members: places.map(([label]) => label),
    hue: 'x',
    dash: undefined,
  };
  return {
    group,
    notes: places.map(([label, shift]) => ({
      id: label,
      name: label,
      badge: { short: label, number: '', label, group },
      shift,
      left: 0,
      right: 0,
      low: 0,
      high: 0,
      yours: null,
      antiphase: shift === null,
      reversed: false,
      missing: false,
    })),
  };
};

describe('labels beside heads', () => {
  it('stand above, below where that is taken, and never over each other', () => {
    const found = labelsOf(
      stave([
        ['HT', 0.1],
        ['SD', 0.11],
        ['BD', -0.5],
        ['XX', 0.105],
        ['Cr', null],
      ]),
      400,
    );
    expect(found.map(({ id, below }) => [id, below])).toEqual([
      ['BD', false],
      ['HT', false],
      ['XX', true],
    ]);
    expect(found[0]?.px).toBe(100);
  });

  it('are those of the pieces of a set, and of nobody who has a number', () => {
    const { staves } = stavesOf(demo);
    expect(staves.flatMap((one) => labelsOf(one, 1000))).toEqual([]);
  });
});

describe('heads that would cover each other', () => {
  const at = (...shifts: number[]) => stave(shifts.map((shift, i) => [`p${i}`, shift]));

  it('stand side by side about their places, in their order, none over another', () => {
    const heads = crowdedHeads(at(0, 0.001, 0.9), 400, 17);
    expect([...heads.keys()]).toEqual(['p0', 'p1']);
    const [a, b] = [heads.get('p0'), heads.get('p1')];
    expect(a).toMatchObject({ small: false });
    expect(200.2 + (b?.dx ?? 0) - (200 + (a?.dx ?? 0))).toBeCloseTo(17, 6);
    expect((a?.dx ?? 0) + (b?.dx ?? 0)).toBeCloseTo(0, 6);
  });

  it('keep apart from those whom they are pushed towards', () => {
    const shifts = [-0.02, -0.01, 0, 0.05, 0.11];
    const heads = crowdedHeads(at(...shifts), 400, 17);
    const px = shifts.map((shift, i) => ((shift + 1) / 2) * 400 + (heads.get(`p${i}`)?.dx ?? 0));
    for (let i = 1; i < px.length; i++) {
      expect((px[i] ?? 0) - (px[i - 1] ?? 0)).toBeGreaterThan(16.99);
    }
  });

  it('stay at the ends of the line, and are small where they are too many', () => {
    const ends = crowdedHeads(at(1, 1, 1), 400, 17);
    const rightmost = Math.max(...[...ends.values()].map(({ dx }) => dx));
    expect(rightmost).toBeLessThanOrEqual(17);
    const many = crowdedHeads(at(...Array.from({ length: 12 }, () => 0.3)), 400, 17);
    expect([...many.values()].every(({ small, dx }) => small && dx === 0)).toBe(true);
    expect(crowdedHeads(at(-0.5, 0.5), 400, 17).size).toBe(0);
  });
});

describe('players without a stable image', () => {
  it('are named where there is room, else counted', () => {
    const of = (count: number) =>
      stave([['lead', 0], ...Array.from({ length: count }, (_, i) => [`${i}`, null] as const)]);
    expect(asideOf(of(3), 40)).toMatchObject({
      more: 0,
      notes: [{ id: '0' }, { id: '1' }, { id: '2' }],
    });
    expect(asideOf(of(9), 40)).toEqual({ notes: [], more: 9 });
    expect(asideOf(of(0), 40)).toEqual({ notes: [], more: 0 });
  });
});
