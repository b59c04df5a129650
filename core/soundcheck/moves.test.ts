import { describe, expect, it } from 'vitest';
import { HALL, MAIN, pair, player, PLAYERS, single, strip } from '../fixtures/calm';
import { sessionFrom, type Session } from '../session';
import { movesNow } from './moves';
import { saidOf, SYMPTOMS, symptomById } from './symptoms';

type Plain = Record<string, unknown>;

const main = (rest: Plain): Plain => ({ ...MAIN, ...rest });
const spot = (rest: Plain = {}): Plain => ({
  id: 'spot',
  name: 'Spot',
  role: 'spot',
  x: 0,
  y: 1.5,
  z: 1.5,
  tiltDeg: -20,
  technique: single('cardioid'),
  mix: { faderDb: -10, capsules: [strip({ delayMs: 8 })] },
  for: { kind: 'some', sources: ['c'] },
  ...rest,
});
const plan = (arrays: readonly Plain[], players: readonly Plain[] = PLAYERS): Session =>
  sessionFrom({ sources: players, arrays, venue: HALL });

const strips = (left: Plain, right: Plain): Plain => ({
  faderDb: 0,
  capsules: [strip({ pan: -1, ...left }), strip({ pan: 1, ...right })],
});
const ambience = (rest: Plain): Plain => ({
  ...{ id: 'far', name: 'Hall pair', role: 'ambience', x: 0, y: -9, z: 4, aimDeg: 180 },
  technique: pair('omni', 0.6, 0),
  ...rest,
});
const organ = player('o', 0, 4.5, { name: 'Organ', kind: 'organ', levelDb: 84, widthM: 1.5 });

/** A healthy set-up with one thing wrong, what is said then, and what undoes it. */
const PLANTED: readonly {
  name: string;
  says: string;
  focus?: string;
  session: Session;
  undone: RegExp;
}[] = [
  {
    name: 'main pair far back',
    says: 'too-far',
    session: plan([main({ y: -7 })]),
    undone: /closer/,
  },
  {
    name: 'main pair over the players',
    says: 'too-close',
    session: plan([main({ y: 0.2 })]),
    undone: /back/,
  },
  {
    name: 'ambience far too loud',
    says: 'too-far',
    session: plan([main({}), ambience({ mix: { faderDb: 9 } })]),
    undone: /fader of Hall pair/,
  },
  {
    name: 'spacing far too wide',
    says: 'hole',
    session: plan([main({ technique: pair('omni', 1.6, 0), y: -1.2 })]),
    undone: /spacing/,
  },
  {
    name: 'angle far too small',
    says: 'narrow',
    session: plan([main({ technique: pair('cardioid', 0.08, 50) })]),
    undone: /angle|spacing/,
  },
  {
    name: 'right channel 5 dB up',
    says: 'heavy',
    session: plan([main({ mix: strips({}, { gainDb: 5 }) })]),
    undone: /gains of its channels alike/,
  },
  {
    name: 'main pair beside the middle',
    says: 'heavy',
    session: plan([main({ x: 1.6 })]),
    undone: /to its left|Turn it|turn it/,
  },
  {
    name: 'spot far too loud and undelayed',
    says: 'spot-out',
    focus: 'c',
    session: plan([main({}), spot({ mix: { faderDb: 8, capsules: [strip({})] } })]),
    undone: /fader of Spot|Delay it/,
  },
  {
    name: 'spot panned to the wrong side',
    says: 'misplaced',
    focus: 'c',
    session: plan([main({}), spot({ mix: { faderDb: 0, capsules: [strip({ pan: -1 })] } })]),
    undone: /pan it to|fader of Spot/,
  },
  {
    name: 'one channel with its polarity turned',
    says: 'mono-thin',
    session: plan([main({ mix: strips({}, { polarity: -1 }) })]),
    undone: /polarity/,
  },
  {
    name: 'channels exchanged',
    says: 'exchanged',
    session: plan([main({ mix: strips({ pan: 1 }, { pan: -1 }) })]),
    undone: /usual/,
  },
  {
    name: 'organ beside a choir, its own microphone up',
    says: 'player-loud',
    focus: 'o',
    session: plan(
      [
        main({}),
        spot({
          ...{ id: 'os', name: 'Organ spot', y: 3.6, z: 2 },
          mix: { faderDb: 8, capsules: [strip({ delayMs: 15 })] },
          for: { kind: 'some', sources: ['o'] },
        }),
      ],
      [...PLAYERS, organ],
    ),
    undone: /fader of Organ spot/,
  },
  {
    name: 'hall pair so far off that it is an echo',
    says: 'echo',
    session: plan(
      [
        main({}),
        ambience({ y: -13, aimDeg: 0, technique: pair('cardioid', 0.3, 60), mix: { faderDb: 12 } }),
      ],
      PLAYERS.map((one) => ({ ...one, kind: 'harp' })),
    ),
    undone: /Hall pair/,
  },
  {
    name: 'piano with its lid closed in a small room',
    says: 'player-vague',
    focus: 'p',
    session: plan(
      [main({ y: -2.5 })],
      [
        player('v', -1, 1, { name: 'Violin' }),
        player('p', 0.8, 2.4, {
          name: 'Piano',
          kind: 'grand piano',
          lid: 'full-stick',
          widthM: 1.5,
        }),
      ],
    ),
    undone: /spot for Piano|nearer to the main/,
  },
];

describe('from a symptom to a move', () => {
  it.each(PLANTED)('$name: what undoes it is among the first three', (planted) => {
    const symptom = symptomById(planted.says);
    if (!symptom) throw new Error('no such symptom');
    const { moves, nowText } = movesNow(planted.session, symptom, planted.focus ?? null);
    const labels = moves.slice(0, 3).map(({ label }) => label);
    const all = moves.map(({ label, share, worsens }) => `${label} ${share} ${worsens.join()}`);
    expect(
      labels.some((label) => planted.undone.test(label)),
      `${nowText}\n${all.join('\n')}`,
    ).toBe(true);
  });

  it('what makes a finding worse stands last, and says so', () => {
    for (const { session, says, focus } of PLANTED) {
      const symptom = symptomById(says);
      if (!symptom) continue;
      const { moves } = movesNow(session, symptom, focus ?? null);
      const first = moves.findIndex(({ worsens }) => worsens.length > 0);
      if (first < 0) continue;
      expect(moves.slice(first).every(({ worsens }) => worsens.length > 0)).toBe(true);
    }
  });

  it('has twenty symptoms and more, each with a figure, levers and words of its own', () => {
    expect(SYMPTOMS.length).toBeGreaterThanOrEqual(20);
    expect(new Set(SYMPTOMS.map(({ id }) => id)).size).toBe(SYMPTOMS.length);
    for (const symptom of SYMPTOMS) {
      expect(symptom.levers.length, symptom.id).toBeGreaterThan(0);
      expect(symptom.says.includes('{player}')).toBe(symptom.ofPlayer);
      expect(saidOf(symptom, 'Viol')).not.toContain('{');
    }
  });

  it('says nothing where there is nothing, and never throws', () => {
    const empty = sessionFrom({});
    const alone = plan([main({})], [player('w', 0, 2, { widthM: 3 })]);
    const down = plan([main({ tiltDeg: -90, y: 1.8 })]);
    for (const symptom of SYMPTOMS) {
      expect(movesNow(empty, symptom, null).moves).toEqual([]);
      expect(movesNow(empty, symptom, 'nobody').moves).toEqual([]);
      for (const session of [alone, down]) {
        const focus = symptom.ofPlayer ? (session.sources[0]?.id ?? null) : null;
        expect(() => movesNow(session, symptom, focus)).not.toThrow();
      }
    }
  });
});
