import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import {
  freeName,
  newArray,
  newSource,
  sectionFrom,
  sessionFrom,
  type Session,
} from '../../core/session';
import {
  align,
  copySelected,
  mirror,
  mirroredCopy,
  paste,
  selectAllPlayers,
  spread,
  turnTo,
} from './arrange';
import {
  addEnsemble,
  addPlayer,
  editHall,
  adoptSetUp,
  keepCandidate,
  keepSetUp,
  removeSelected,
  withTechnique,
} from './edits';
import { edit, sessionStore, undo } from './session-store';
import { placeThing, removeThings, settle, thingOf, thingsOf } from './things';
import { choiceStore, selectMany } from '../view/choice';
import { noticeStore } from '../view/notices';
import { openSession } from '../fixtures';

const players = [
  newSource({ id: 'a', name: 'Flute', x: -2, y: 1, z: 1.2, facingDeg: 150 }),
  newSource({ id: 'b', name: 'Oboe', x: -0.4, y: 2, z: 1.1 }),
  newSource({ id: 'c', name: 'Clarinet', x: 2, y: 4, z: 1 }),
];
const pair = newArray({ id: 'm', name: 'Main pair', x: 0.5, y: -1, z: 3, aimDeg: 10 });
const start: Session = {
  ...sessionFrom({
    venue: {
      datumPoints: [
        { id: 'A', name: 'A', x: -4, y: 3 },
        { id: 'B', name: 'B', x: 4, y: 3 },
      ],
      obstacles: [{ id: 'o', name: 'Column', x: 3, y: 5 }],
    },
  }),
  sources: players,
  arrays: [pair],
};

const now = (): Session => {
  const { session } = sessionStore.getState();
  if (!session) throw new Error('a session is open');
  return session;
};
const sources = (...ids: string[]) => ids.map((id) => ({ kind: 'source' as const, id }));
const of = (id: string) => now().sources.find((source) => source.id === id);

beforeEach(() => {
  openSession(structuredClone(start));
  selectMany([]);
});

describe('several at once', () => {
  it('align on their mean, heights as well; what has no height is left alone', () => {
    selectMany([...sources('a', 'b', 'c'), { kind: 'obstacle', id: 'o' }]);
    align('z');
    expect(now().sources.map(({ z }) => z)).toEqual([1.1, 1.1, 1.1]);
    align('y');
    expect(now().sources.map(({ y }) => y)).toEqual([3, 3, 3]);
    expect(now().venue.obstacles[0]).toMatchObject({ y: 3 });
    undo();
    undo();
    expect(now().sources).toEqual(players);
  });

  it('one alone is neither aligned nor spread', () => {
    selectMany(sources('a'));
    align('x');
    spread();
    expect(now().sources).toEqual(players);
  });

  it('spread in even steps between the outermost', () => {
    selectMany(sources('a', 'b', 'c'));
    spread();
    expect(of('b')).toMatchObject({ x: 0, y: 2.5 });
    expect(of('a')).toEqual(players[0]);
    expect(of('c')).toEqual(players[2]);
  });

  it('mirrored twice, all is as it was', () => {
    selectMany([
      ...sources('a', 'b', 'c'),
      { kind: 'array', id: 'm' },
      { kind: 'obstacle', id: 'o' },
    ]);
    mirror();
    expect(of('a')).toMatchObject({ x: 2, y: 1, facingDeg: -150 });
    expect(now().arrays[0]).toMatchObject({ x: -0.5, aimDeg: -10 });
    expect(now().venue.obstacles[0]).toMatchObject({ x: -3, y: 5 });
    mirror();
    expect(now().sources).toEqual(players);
    expect(now().arrays).toEqual([pair]);
  });

  it('a mirrored copy has names of its own and is what is selected then', () => {
    selectMany(sources('a', 'b'));
    mirroredCopy();
    expect(
      now()
        .sources.slice(3)
        .map(({ name, x }) => [name, x]),
    ).toEqual([
      ['Flute 2', 2],
      ['Oboe 2', 0.4],
    ]);
    const made = now().sources.slice(3);
    expect(choiceStore.getState().selected).toEqual(sources(...made.map(({ id }) => id)));
    expect(new Set(now().sources.map(({ id }) => id)).size).toBe(5);
  });

  it('a copy is put down beside its original, as often as wanted, and belongs to no section', () => {
    edit((draft) => {
      for (const source of draft.sources) source.sectionId = 's';
    });
    selectMany(sources('c'));
    copySelected();
    paste();
    paste();
    expect(now().sources.slice(3)).toMatchObject([
      { name: 'Clarinet 2', x: 2.5, y: 4, sectionId: '' },
      { name: 'Clarinet 3', x: 2.5, y: 4, sectionId: '' },
    ]);
  });

  it('all players, and nothing else', () => {
    selectAllPlayers();
    expect(choiceStore.getState().selected).toEqual(sources('a', 'b', 'c'));
  });
});

describe('names', () => {
  it('count on from what is taken', () => {
    expect(freeName('Horn', new Set())).toBe('Horn');
    expect(freeName('Horn', new Set(['Horn']))).toBe('Horn 2');
    expect(freeName('Horn 2', new Set(['Horn', 'Horn 2']))).toBe('Horn 3');
  });

  it('are never taken already', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('Horn', 'Horn 2', 'Horn 3', 'Tuba')), (taken) => {
        expect(taken).not.toContain(freeName('Horn', new Set(taken)));
      }),
    );
  });
});

describe('things on the floor', () => {
  it('a position is kept to the millimetre, inside the limits, and never minus zero', () => {
    expect(settle(1.23456)).toBe(1.235);
    expect(settle(900)).toBe(200);
    expect(settle(-900)).toBe(-200);
    expect(Object.is(settle(-0.0001), 0)).toBe(true);
  });

  it('of every kind are found and placed', () => {
    expect(thingOf(start, { kind: 'obstacle', id: 'o' })).toMatchObject({
      name: 'Column',
      z: null,
    });
    expect(thingOf(start, { kind: 'array', id: 'm' })).toMatchObject({ z: 3 });
    expect(thingsOf(start, [...sources('a', 'gone')])).toHaveLength(1);
    edit((draft) => {
      placeThing(draft, { kind: 'datum', id: 'B' }, { x: 5 });
      placeThing(draft, { kind: 'obstacle', id: 'o' }, { y: 6, z: 9 });
      placeThing(draft, { kind: 'source', id: 'gone' }, { x: 5 });
    });
    expect(now().venue.datumPoints[1]).toMatchObject({ id: 'B', x: 5, y: 3 });
    expect(now().venue.obstacles[0]).toMatchObject({ x: 3, y: 6 });
    expect(now().venue.obstacles[0]).not.toHaveProperty('z');
  });

  it('a player that goes takes wishes and wanted places about it along', () => {
    edit((draft) => {
      draft.brief.intent.bands = [
        { sourceId: 'a', fromPct: -100, toPct: 0 },
        { sourceId: 'b', fromPct: 0, toPct: 100 },
      ];
      draft.sections = [sectionFrom({ id: 's', count: 1 }), sectionFrom({ id: 't', count: 2 })];
      for (const source of draft.sources) source.sectionId = source.id === 'a' ? 's' : 't';
      const oboe = draft.sources[1];
      if (oboe) {
        oboe.constraints = [
          { kind: 'sees', sourceId: 'a' },
          { kind: 'sees', sourceId: 'c' },
        ];
      }
    });
    edit((draft) => removeThings(draft, sources('a')));
    expect(now().brief.intent.bands.map(({ sourceId }) => sourceId)).toEqual(['b']);
    expect(of('b')?.constraints).toMatchObject([{ sourceId: 'c' }]);
    expect(now().sections.map(({ id, count }) => [id, count])).toEqual([['t', 2]]);
  });

  it('what is removed is named, and comes back whole', () => {
    selectMany([...sources('a', 'b')]);
    removeSelected(now());
    expect(now().sources.map(({ id }) => id)).toEqual(['c']);
    expect(choiceStore.getState().selected).toEqual([]);
    undo();
    expect(now().sources).toEqual(players);
  });
});

describe('edits', () => {
  it('players are added where nobody stands', () => {
    for (let i = 0; i < 12; i++) addPlayer(now());
    const places = now().sources;
    places.forEach((p, i) => {
      for (const other of places.slice(i + 1)) {
        expect(Math.hypot(p.x - other.x, p.y - other.y)).toBeGreaterThanOrEqual(0.6);
      }
    });
  });

  it('routes go with a new kind of technique and stay with the same kind', () => {
    const strip = { pan: 0.5, gainDb: -3, polarity: 1 as const, delayMs: 0 };
    const mixed = { ...pair, mix: { ...pair.mix, capsules: [strip, strip] } };
    openSession({ ...structuredClone(start), arrays: [mixed] });
    const wider = { ...pair.technique, kind: 'pair', pattern: 'omni', spacingM: 1 } as const;
    edit(withTechnique(mixed, { ...wider, includedAngleDeg: 0 }));
    expect(now().arrays[0]?.mix.capsules).toHaveLength(2);
    edit(withTechnique(mixed, { kind: 'single', pattern: 'omni' }));
    expect(now().arrays[0]?.mix.capsules).toEqual([]);
  });

  it('candidates keep the name of the array, numbered where it is taken, and do not change with it', () => {
    keepCandidate(pair);
    keepCandidate(pair);
    edit((draft) => void (draft.candidates = draft.candidates.slice(1)));
    keepCandidate(pair);
    expect(now().candidates.map(({ name }) => name)).toEqual(['Main pair 2', 'Main pair']);
    edit((draft) => {
      const [array] = draft.arrays;
      if (array) array.z = 9;
    });
    expect(now().candidates[0]?.array.z).toBe(3);
  });

  it('a whole set-up is kept with all arrays, and comes back with all of them as one step', () => {
    edit((draft) => void draft.arrays.push(newArray({ id: 'out', name: 'Outriggers', x: 4 })));
    const before = now().arrays;
    const id = keepSetUp(pair);
    expect(now().candidates.at(-1)).toMatchObject({ id, name: 'Set-up', array: { id: pair.id } });
    edit((draft) => {
      draft.arrays = draft.arrays.slice(0, 1);
      draft.arrays[0]!.z = 5;
    });
    const changed = now().arrays;
    adoptSetUp(now().candidates.at(-1)?.setUp ?? [], 'Set-up');
    expect(now().arrays).toEqual(before);
    undo();
    expect(now().arrays).toEqual(changed);
    // What was adopted changes without what was kept.
    adoptSetUp(now().candidates.at(-1)?.setUp ?? [], 'Set-up');
    edit((draft) => void (draft.arrays[1]!.x = -4));
    expect(now().candidates.at(-1)?.setUp[1]?.x).toBe(4);
  });

  it('an ensemble comes with free names, and with its microphones only where asked', () => {
    const made = {
      sections: [],
      sources: [newSource({ id: 'x', name: 'Flute' }), newSource({ id: 'y', name: 'Flute' })],
      arrays: [newArray({ id: 'n', name: 'Outriggers' })],
    };
    addEnsemble(made, false);
    expect(
      now()
        .sources.slice(3)
        .map(({ name }) => name),
    ).toEqual(['Flute 2', 'Flute 3']);
    expect(now().arrays).toHaveLength(1);
    addEnsemble({ ...made, sources: [] }, true);
    expect(now().arrays).toHaveLength(2);
  });
});

describe('turning', () => {
  it('makes every chosen player face a place, in one step', () => {
    openSession(structuredClone(start));
    selectMany([
      { kind: 'source', id: 'a' },
      { kind: 'source', id: 'b' },
      { kind: 'array', id: 'm' },
    ]);
    turnTo({ x: 0, y: -1 });
    const facing = () => sessionStore.getState().session?.sources.map((one) => one.facingDeg);
    const [, , clarinet] = players;
    // From 2 m left and 2 m upstage that is 135° to the right of upstage.
    expect(facing()).toEqual([135, 172, clarinet?.facingDeg]);
    undo();
    expect(facing()).toEqual(players.map((one) => one.facingDeg));
  });
});

describe('a smaller hall', () => {
  it('says who is outside of it, and brings them in', () => {
    openSession(structuredClone(start));
    noticeStore.setState({ notices: [] });
    editHall((draft) => void (draft.venue.heightM = 2.5));
    // Without the place of the datum only the ceiling is known.
    expect(noticeStore.getState().notices.map(({ text }) => text)).toEqual([
      'Main pair is outside of the hall now.',
    ]);
    noticeStore.getState().notices[0]?.action?.run();
    expect(sessionStore.getState().session?.arrays[0]?.z).toBe(2.2);
    editHall((draft) => {
      Object.assign(draft.venue, { widthM: 3, depthM: 20, origin: { x: 1.5, y: 10 } });
    });
    expect(noticeStore.getState().notices.map(({ text }) => text)).toContain(
      '2 players are outside of the hall now.',
    );
    const said = noticeStore.getState().notices.length;
    editHall((draft) => void (draft.venue.widthM = 30));
    expect(noticeStore.getState().notices.length).toBe(said);
  });
});
