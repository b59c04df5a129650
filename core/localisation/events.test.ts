import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fiveChannel, ringWithHeight, threeMicTree } from '../arrays/layouts';
import type { ChannelStrip } from '../arrays/routing';
import type { Technique } from '../arrays/technique';
import { farCues, nearCues } from './cues';
import { prepareArray } from './prepared-array';
import { placeOf } from './placed';
import { eventGroups } from './event-groups';
import { eventExtent, eventsOf, heardApart, shiftOfEvents, weighEvents } from './events';
import type { ImageEvent } from './events';
import { modelById, MODELS } from './models';
import type { LocalisationModel } from './models';

const c = 343.2;
const consensus = modelById('consensus');
/** Takes the level difference itself for the shift, so that events can be held where one wants. */
const held: LocalisationModel = { ...consensus, shift: (icldDb) => icldDb };
const event = (ms: number, energy: number, shift: number, change = {}): ImageEvent => ({
  origin: 0,
  timeS: ms / 1000,
  energy,
  imaged: 1,
  parts: [{ icldDb: shift, ictdMs: 0 }],
  half: 1,
  mean: 0,
  pair: true,
  inverted: false,
  ...change,
});
const placed = (...events: ImageEvent[]): number => {
  const weighed = weighEvents(events);
  if (!weighed) throw new Error('no energy');
  return shiftOfEvents(weighed, held);
};
const strip = (pan: number, change: Partial<ChannelStrip> = {}): ChannelStrip => ({
  pan,
  gainDb: 0,
  polarity: 1,
  delayMs: 0,
  ...change,
});
const at = { x: 0, y: 0, z: 2, aimDeg: 0, tiltDeg: 0 };
const ORTF: Technique = {
  kind: 'pair',
  pattern: 'cardioid',
  spacingM: 0.17,
  includedAngleDeg: 110,
};
const MID_SIDE: Technique = {
  kind: 'mid-side',
  midPattern: 'cardioid',
  sideGainDb: 0,
  sidePositive: 'left',
};

describe('events one after the other', () => {
  it.each([
    [15, 1, -0.408],
    [0.5, 1, -0.145],
    [15, 10, 0.021],
  ])('%s ms later with %s times the energy, the whole is at %s', (ms, energy, place) => {
    expect(placed(event(0, 1, -0.5), event(ms, energy, 0.5))).toBeCloseTo(place, 3);
  });

  it('at once pull by their energy, and after 50 ms the first has it all', () => {
    expect(placed(event(0, 3, -0.5), event(0, 1, 0.5))).toBeCloseTo(-0.25, 12);
    expect(placed(event(0, 1, -0.5), event(50, 1, 0.5))).toBeCloseTo(-0.5, 2);
    expect(placed(event(0, 1, -0.5), event(30, 1, 0.5))).toBeCloseTo(-0.408, 3);
    expect(weighEvents([event(0, 0, 1)])).toBeNull();
    expect(weighEvents([])).toBeNull();
  });

  it('a first one that is 30 dB weaker holds half as much back', () => {
    // s = 0.5, so h = 0.5 and the second keeps 0.55 of its pull.
    const weighed = weighEvents([event(0, 0.001, -1), event(5, 1, 1)]);
    expect(weighed?.pulls[1]).toBeCloseTo(0.55 / 0.551, 9);
  });

  const some = fc.record({
    ms: fc.double({ min: 0, max: 80, noNaN: true }),
    db: fc.double({ min: -40, max: 20, noNaN: true }),
    shift: fc.double({ min: -1, max: 1, noNaN: true }),
  });
  const list = fc.array(some, { minLength: 1, maxLength: 8 });
  const made = (all: readonly { ms: number; db: number; shift: number }[]) =>
    all.map(({ ms, db, shift }) => event(ms, 10 ** (db / 10), shift));

  it('are never beyond their parts, in whatever order they are given', () => {
    fc.assert(
      fc.property(list, (all) => {
        const place = placed(...made(all));
        const shifts = all.map(({ shift }) => shift);
        expect(place).toBeGreaterThanOrEqual(Math.min(...shifts) - 1e-12);
        expect(place).toBeLessThanOrEqual(Math.max(...shifts) + 1e-12);
        expect(placed(...made([...all].reverse()))).toBeCloseTo(place, 12);
      }),
    );
  });

  it('move by less than 1 % in a step of 1 µs or 0.1 dB', () => {
    fc.assert(
      fc.property(list, fc.nat(7), (all, which) => {
        const i = which % all.length;
        const moved = (change: (one: { ms: number; db: number; shift: number }) => object) =>
          placed(...made(all.map((one, j) => (j === i ? { ...one, ...change(one) } : one))));
        const place = placed(...made(all));
        expect(Math.abs(moved(({ ms }) => ({ ms: ms + 0.001 })) - place)).toBeLessThan(0.01);
        expect(Math.abs(moved(({ db }) => ({ db: db + 0.1 })) - place)).toBeLessThan(0.01);
      }),
    );
  });

  it('a louder fader pulls towards its own place', () => {
    fc.assert(
      fc.property(list, some, fc.double({ min: 0, max: 12, noNaN: true }), (all, one, more) => {
        const far = made([
          ...all.map(({ ms, db }) => ({ ms, db, shift: -0.5 })),
          { ...one, shift: 0.5 },
        ]);
        const louder = far.map((item, i) =>
          i === all.length ? { ...item, energy: item.energy * 10 ** (more / 10) } : item,
        );
        expect(placed(...louder)).toBeGreaterThanOrEqual(placed(...far) - 1e-12);
      }),
    );
  });

  it('what has no image pulls nowhere, and says how much is lost', () => {
    const lost = event(0, 3, -1, { imaged: 0 });
    expect(placed(lost, event(0, 1, 0.4))).toBeCloseTo(0.4, 12);
    expect(weighEvents([lost, event(0, 1, 0.4)])?.antiphaseShare).toBeCloseTo(0.75, 12);
    expect(placed(lost)).toBe(0);
  });

  it('are heard apart half at the limit, wholly 10 ms later', () => {
    const first = event(0, 1, 0);
    const late = (ms: number, energy = 1) => {
      const second = event(ms, energy, 0);
      return heardApart(second, [first, second], 50);
    };
    expect(late(40)).toBe(0);
    expect(late(50)).toBeCloseTo(0.5, 2);
    expect(late(60)).toBeCloseTo(1, 2);
    expect(late(60, 1000)).toBeCloseTo(0.5, 6);
    expect(heardApart(first, [first, event(60, 1, 0)], 50)).toBe(0);
  });
});

describe('what is heard together', () => {
  const named = (technique: Technique, labels: readonly string[]) =>
    eventGroups(technique).map((group) => {
      if (group.kind === 'pair') return `${labels[group.left]}+${labels[group.right]}`;
      return group.kind === 'single' ? labels[group.capsule] : 'M+S';
    });
  const custom = (capsules: ReturnType<typeof threeMicTree>['capsules']) =>
    named(
      { kind: 'custom', capsules },
      capsules.map(({ label }) => label),
    );

  it('is a pair, mid with side, and mirrored loudspeakers of larger arrays', () => {
    expect(named(ORTF, ['L', 'R'])).toEqual(['L+R']);
    expect(named(MID_SIDE, ['M', 'S'])).toEqual(['M+S']);
    expect(named({ kind: 'single', pattern: 'omni' }, ['M'])).toEqual(['M']);
    expect(custom(threeMicTree(2, 1, 'omni').capsules)).toEqual(['L+R', 'C']);
    expect(custom(fiveChannel(1, 0.2, 1, 0.6, 'cardioid').capsules)).toEqual(['L+R', 'C', 'Ls+Rs']);
    expect(custom(ringWithHeight(7, 1, 4, 1, 30, 'omni').capsules)).toEqual([
      'L+R',
      'C',
      'Lss+Rss',
      'Lrs+Rrs',
      'Ltf+Rtf',
      'Ltr+Rtr',
    ]);
  });

  it('goes by places where the labels say nothing, and by the aim where the places do not', () => {
    const one = (label: string, dx: number, azimuthDeg = 0) => ({
      label,
      dx,
      dy: 0,
      dz: 0,
      azimuthDeg,
      elevationDeg: 0,
      pattern: 'cardioid' as const,
    });
    expect(custom([one('1', 0.4), one('2', 0), one('3', -0.4)])).toEqual(['3+1', '2']);
    expect(custom([one('1', 0.4), one('2', 0), one('3', -0.5)])).toEqual(['1', '2', '3']);
    expect(custom([one('a', 0, 45), one('b', 0, -45)])).toEqual(['b+a']);
    expect(custom([one('Front left', -1), one('Front right', 1), one('C', 0)])).toEqual([
      'Front left+Front right',
      'C',
    ]);
  });
});

describe('strips of a pair', () => {
  const player = fc.record({
    x: fc.double({ min: -5, max: 5, noNaN: true }),
    y: fc.double({ min: 0.5, max: 9, noNaN: true }),
    z: fc.double({ min: 0, max: 3, noNaN: true }),
  });
  const cuesOf = (
    technique: Technique,
    strips: ChannelStrip[],
    source: { x: number; y: number; z: number },
  ) => {
    const cues = nearCues(prepareArray({ ...at, technique }, strips), source, c);
    if (!cues) throw new Error('too close');
    return cues;
  };

  it('swapped pans mirror the image, narrower pans narrow it about their middle', () => {
    fc.assert(
      fc.property(player, (source) => {
        const plain = placeOf(cuesOf(ORTF, [], source), consensus);
        const swapped = cuesOf(ORTF, [strip(1), strip(-1)], source);
        expect(placeOf(swapped, consensus)).toBeCloseTo(-plain, 9);
        const narrow = cuesOf(ORTF, [strip(-0.5), strip(0.7)], source);
        expect(placeOf(narrow, consensus)).toBeCloseTo(0.1 + 0.6 * plain, 9);
      }),
    );
  });

  it('hard pans with gain and delay stay exact', () => {
    const source = { x: 1, y: 4, z: 1 };
    const plain = cuesOf(ORTF, [], source);
    const set = cuesOf(ORTF, [strip(-1, { delayMs: 0.2 }), strip(1, { gainDb: 3 })], source);
    expect(set.events).toBeUndefined();
    expect(set.ictdMs).toBeCloseTo(plain.ictdMs + 0.2, 9);
    expect(set.icldDb).toBeCloseTo(plain.icldDb + 3, 9);
    expect(cuesOf(ORTF, [strip(-1, { polarity: -1 }), strip(1)], source).antiphase).toBe(true);
    expect(cuesOf(ORTF, [strip(-0.5, { polarity: -1 }), strip(1)], source).antiphase).toBe(true);
  });

  it('a single microphone is where its pan puts it', () => {
    const single: Technique = { kind: 'single', pattern: 'omni' };
    for (const model of MODELS) {
      expect(placeOf(cuesOf(single, [strip(1)], { x: 0, y: 3, z: 1 }), model)).toBeCloseTo(1, 9);
      expect(placeOf(cuesOf(single, [strip(0)], { x: 2, y: 3, z: 1 }), model)).toBeCloseTo(0, 9);
    }
    const cues = cuesOf(single, [strip(0.4, { polarity: -1 })], { x: 2, y: 3, z: 1 });
    const db = 20 * Math.log10(Math.tan((1.4 * Math.PI) / 4));
    expect(cues.icldDb).toBeCloseTo(db, 9);
    expect(cues.inverted).toBe(false);
  });
});

describe('a decoder with its side at the wrong time', () => {
  const late = (delayMs: number, sideDb = 0, deg = 20) =>
    farCues(
      prepareArray({ ...at, technique: MID_SIDE }, [
        strip(0),
        strip(0, { delayMs, gainDb: sideDb }),
      ]),
      deg,
      c,
    );

  it('goes on without a jump from none at all, and comes to the middle', () => {
    const right = placeOf(late(0), consensus);
    expect(right).toBeGreaterThan(0.25);
    let before = right;
    for (let us = 0.5; us <= 400; us += 0.5) {
      const here = placeOf(late(us / 1000), consensus);
      expect(Math.abs(here - before)).toBeLessThan(0.02);
      before = here;
    }
    // A side that is turned this way and that against the mid is on both sides by turns.
    const cues = late(0.4);
    const [event0] = cues.events?.events ?? [];
    const extent = event0 && eventExtent(event0, consensus);
    expect(extent?.left).toBeLessThan(-0.2);
    expect(extent?.right).toBeGreaterThan(0.2);
    expect(cues.ictdMs).toBe(0);
  });

  it('is in antiphase where more than half of the bands are', () => {
    expect(late(0, 0, 100).antiphase).toBe(true);
    expect(late(0.001, 0, 100).antiphase).toBe(true);
    expect(late(0.001, 0, 20).antiphase).toBe(false);
    // 20 dB too much side is out of phase wherever it is not late by a quarter of a turn.
    expect(late(0, 20, 45).antiphase).toBe(true);
  });

  it('is looked at in third octaves 200 Hz … 8 kHz: lowest level, middle by energy and highest', () => {
    const ready = prepareArray({ ...at, technique: MID_SIDE }, [
      strip(0),
      strip(0, { delayMs: 0.1 }),
    ]);
    const arrivals = [
      { gain: 1, timeS: 0 },
      { gain: -0.5, timeS: 0 },
    ];
    const [event0, more] = eventsOf(ready.groups, ready.routes, arrivals);
    expect(more).toBeUndefined();
    expect(event0?.parts).toHaveLength(3);
    expect(event0?.energy).toBeCloseTo(2 * (1 + 0.25), 12);
    expect(event0?.timeS).toBe(0);
    // In each band |R/L| = |1 + 0.5·e^(−jφ)| / |1 − 0.5·e^(−jφ)|.
    const levels = Array.from({ length: 17 }, (_, i) => {
      const turn = 2 * Math.PI * 10 ** (2.3 + i / 10) * 1e-4;
      const size = (sign: number) =>
        Math.hypot(1 + sign * 0.5 * Math.cos(turn), 0.5 * Math.sin(turn));
      return 20 * Math.log10(size(1) / size(-1));
    });
    expect(event0?.parts[0]?.icldDb).toBeCloseTo(Math.min(...levels), 6);
    expect(event0?.parts[2]?.icldDb).toBeCloseTo(Math.max(...levels), 6);
    // Half of the energy lies on either side of the middle, bands blurred by 3 dB; all bands have
    // the same energy here, because |1 + x|² + |1 − x|² does not turn.
    const middle = event0?.parts[1]?.icldDb ?? NaN;
    const below = levels.reduce(
      (sum, level) => sum + Math.min(1, Math.max(0, (middle - level + 3) / 6)),
      0,
    );
    expect(below).toBeCloseTo(17 / 2, 6);
  });

  it('is the same when the figure-eight comes twice by hand, on two channels', () => {
    const at0 = { dx: 0, dy: 0, dz: 0, elevationDeg: 0 };
    const side = { ...at0, azimuthDeg: -90, pattern: 'figure-eight' as const };
    const capsules = [
      { ...at0, label: 'M', azimuthDeg: 0, pattern: 'cardioid' as const },
      { ...side, label: 'S+' },
      { ...side, label: 'S−' },
    ];
    const byHand = (delayMs: number, deg: number) =>
      farCues(
        prepareArray({ ...at, technique: { kind: 'custom', capsules } }, [
          // A mid in the middle of a constant-power pan, made up for.
          strip(0, { gainDb: 20 * Math.log10(Math.SQRT2) }),
          strip(-1, { delayMs }),
          strip(1, { polarity: -1, delayMs }),
        ]),
        deg,
        c,
      );
    for (const delayMs of [0, 0.001, 0.3]) {
      for (const deg of [-70, -20, 0, 35, 100]) {
        const [hand, decoded] = [byHand(delayMs, deg), late(delayMs, 0, deg)];
        expect(hand.antiphase).toBe(decoded.antiphase);
        expect(placeOf(hand, consensus)).toBeCloseTo(placeOf(decoded, consensus), 9);
      }
    }
    // The second side not inverted: mid and side add in both channels alike, and all is in the middle.
    const wrong = prepareArray({ ...at, technique: { kind: 'custom', capsules } }, [
      strip(0, { gainDb: 20 * Math.log10(Math.SQRT2) }),
      strip(-1),
      strip(1),
    ]);
    expect(placeOf(farCues(wrong, 40, c), consensus)).toBeCloseTo(0, 9);
  });
});
