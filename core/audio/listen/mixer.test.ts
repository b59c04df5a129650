import { describe, expect, it } from 'vitest';
import { spherePressure } from '../../localisation/listener';
import { demoSessions } from '../../demo';
import { analyseSession } from '../../analysis';
import { delayBetween } from '../measure/delay';
import { fastEngine } from '../signal/fast-spectra';
import { playedPhrase, type PhraseSpec } from '../render/places';
import { plainEngine } from '../signal/spectra';
import { guarded } from './interpolate';
import { headFilters } from './head';
import { LiveMix } from './live';
import { doubled, expectedLoudness, sceneLoops, type LoopsWanted, type MadeLayer } from './loops';
import { ListenMixer, type Hearing, type Loop } from './mixer';
import { livePoints, poseOf } from './pose';
import { MOST_STEMS, sceneOf, type Heard, type Scene } from './scene';
import type { Session } from '../../session';

const RATE = 48_000;
const BLOCK = 128;
const PLAIN: Hearing = { volume: 1, mono: false, swap: false, dim: false, head: null };

/** Left tells the take, right the frame. */
const telling = (take: number, frames: number): Loop => [
  new Float32Array(frames).fill(take / 100),
  Float32Array.from({ length: frames }, (_, i) => i / 2 ** 20),
];

function mixerOf(frames: number, takes: readonly number[]): ListenMixer {
  const mixer = new ListenMixer(frames, RATE, BLOCK);
  for (const take of takes) {
    mixer.open(`${take}`, ['s0'], 1);
    mixer.fill(`${take}`, 0, 'all', telling(take, frames));
  }
  mixer.hear(PLAIN);
  mixer.play(true);
  return mixer;
}

function run(mixer: ListenMixer, blocks: number, each: (block: number) => void = () => undefined) {
  const raw: [Float64Array, Float64Array, number][] = [];
  const out = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)] as const;
  for (let block = 0; block < blocks; block++) {
    each(block);
    const from = block * BLOCK;
    mixer.process(
      out[0].subarray(from, from + BLOCK),
      out[1].subarray(from, from + BLOCK),
      from / RATE,
      (left, right, frame) => raw.push([left.slice(), right.slice(), frame]),
    );
  }
  return { raw, out };
}

describe('takes', () => {
  it('change places at the same sample, fifty times, and the loop goes round without a gap', () => {
    const frames = 10_007;
    const mixer = mixerOf(frames, [10, 20, 30]);
    mixer.choose('10');
    let chosen = 0;
    const { raw } = run(mixer, 50 * 20, (block) => {
      if (block % 20 === 10) mixer.choose(`${[10, 20, 30][(chosen += 1) % 3]}`);
    });
    expect(chosen).toBe(50);
    const heard = new Set<number>();
    let frame = 0;
    raw.forEach(([left, right, first], block) => {
      expect(first).toBe(frame);
      left.forEach((value, i) => {
        const take = Math.round(value * 100);
        const steady = block % 20 < 10 || block % 20 > 18;
        if (!steady || block < 12) return;
        // Nothing of another take, and the frame that it should be.
        expect(value * 100).toBeCloseTo(take, 4);
        heard.add(take);
        expect(Math.round((right[i] as number) * 2 ** 20)).toBe((frame + i) % frames);
      });
      frame = (frame + BLOCK) % frames;
    });
    expect([...heard].sort()).toEqual([10, 20, 30]);
    expect(mixer.levels().missing).toBe(0);
  });

  it('keep their power while they change, and one that is not there yet is waited for', () => {
    const mixer = mixerOf(4800, [10]);
    mixer.choose('10');
    run(mixer, 300);
    mixer.open('20', ['s0'], 1);
    mixer.choose('20');
    const waiting = run(mixer, 20).raw;
    expect(waiting.every(([left]) => left.every((value) => Math.abs(value - 0.1) < 1e-6))).toBe(
      true,
    );
    mixer.fill('20', 0, 'all', telling(10, 4800));
    const crossed = run(mixer, 12).raw.flatMap(([left]) => [...left]);
    // The same sound twice at once, so a little louder; never softer, never a step.
    expect(Math.min(...crossed)).toBeGreaterThan(0.0999);
    expect(Math.max(...crossed)).toBeLessThan(0.1 * Math.SQRT2 + 1e-6);
    crossed.slice(1).forEach((value, i) => {
      expect(Math.abs(value - (crossed[i] ?? 0))).toBeLessThan(0.001);
    });
  });

  it('begin softly and end within a twentieth of a second; silence is silence', () => {
    const mixer = mixerOf(4800, [50]);
    mixer.choose('50');
    const begun = run(mixer, 200).out[0];
    expect(Math.max(...begun.slice(0, 2400))).toBeLessThan(0.1);
    expect(begun[begun.length - 1]).toBeCloseTo(0.5, 3);
    mixer.play(false);
    const ended = run(mixer, 40).out[0];
    expect(Math.abs(ended[ended.length - 1] ?? 1)).toBe(0);
  });

  it('are held by the limiter below full scale, without wrapping or a step', () => {
    const frames = 4800;
    const mixer = new ListenMixer(frames, RATE, BLOCK);
    mixer.open('a', ['s0'], 1);
    const loud = Float32Array.from({ length: frames }, (_, i) =>
      Math.floor(i / 1200) % 2 === 1 ? 3 * Math.sin((2 * Math.PI * 500 * i) / RATE) : 0.01,
    );
    mixer.fill('a', 0, 'all', [loud, loud]);
    mixer.hear(PLAIN);
    mixer.play(true);
    mixer.choose('a');
    const { out } = run(mixer, 400);
    expect(Math.max(...out[0].map(Math.abs))).toBeLessThanOrEqual(0.9);
    expect(mixer.levels().limited).toBeLessThan(0.4);
  });

  it('are heard in mono, with sides changed, alone and silent', () => {
    const frames = 4800;
    const mixer = new ListenMixer(frames, RATE, BLOCK);
    mixer.open('a', ['s0', 's1'], 1);
    const steady = (l: number, r: number): Loop => [
      new Float32Array(frames).fill(l),
      new Float32Array(frames).fill(r),
    ];
    mixer.fill('a', 0, 'all', steady(0.2, 0));
    mixer.fill('a', 1, 'all', steady(0, 0.1));
    mixer.hear(PLAIN);
    mixer.play(true);
    mixer.choose('a');
    const ends = () => {
      const { out } = run(mixer, 200);
      return out.map((samples) => Math.round((samples[samples.length - 1] ?? 0) * 1000) / 1000);
    };
    expect(ends()).toEqual([0.2, 0.1]);
    mixer.hear({ ...PLAIN, mono: true });
    expect(ends()).toEqual([0.15, 0.15]);
    mixer.hear({ ...PLAIN, swap: true });
    expect(ends()).toEqual([0.1, 0.2]);
    mixer.hear({ ...PLAIN, dim: true });
    expect(ends()).toEqual([0.02, 0.01]);
    mixer.hear(PLAIN);
    mixer.setStems(
      new Map([
        ['s0', 1],
        ['s1', 0],
      ]),
    );
    expect(ends()).toEqual([0.2, 0]);
    expect(mixer.levels().stems.s0).toBeCloseTo(0.04, 5);
  });

  it('go round between two frames where that is wanted, and to another place, without a step', () => {
    const frames = 48_000;
    const mixer = mixerOf(frames, [10]);
    mixer.setRange(1000, 9000);
    mixer.seek(1000);
    mixer.choose('10');
    const { raw, out } = run(mixer, 600, (block) => {
      if (block === 400) mixer.setRange(0, frames);
      if (block === 450) mixer.seek(30_000);
    });
    const first = raw.slice(250, 400).map(([, , frame]) => frame);
    expect(Math.min(...first)).toBe(1000);
    expect(Math.max(...first)).toBeLessThan(9000);
    expect(Math.max(...raw.slice(455, 470).map(([, , frame]) => frame))).toBeGreaterThan(30_000);
    const [left] = out;
    for (let i = 1; i < left.length; i++) {
      expect(Math.abs((left[i] ?? 0) - (left[i - 1] ?? 0))).toBeLessThan(0.001);
    }
    // Too short to be heard is no range.
    mixer.setRange(100, 200);
    expect(Math.max(...run(mixer, 300).raw.map(([, , frame]) => frame))).toBeGreaterThan(9000);
  });
});

const phrases = new Map<string, Float32Array>();
const loopOf = ({ plays }: { plays: PhraseSpec }): Float32Array => playedPhrase(plays, phrases);
const SESSIONS = demoSessions('2026-01-01T00:00:00Z');
const noise = (spec: PhraseSpec): PhraseSpec => ({ ...spec, name: 'pink noise' });

function sceneIn(session: Session, heard?: Heard): Scene {
  const main = session.arrays.find(({ role }) => role === 'main') ?? session.arrays[0];
  if (!main) throw new Error('no array');
  const scene = sceneOf(session, heard ?? main, RATE);
  if (!scene.ok) throw new Error(scene.message);
  return scene.value;
}

async function loopsOf(scene: Scene, wanted: LoopsWanted, engine = plainEngine) {
  const layers: MadeLayer[] = [];
  const work = sceneLoops(scene, wanted, loopOf, { engine });
  for (let step = await work.next(); ; step = await work.next()) {
    if (step.done) return { layers, loudness: step.value };
    layers.push(step.value);
  }
}

const PARTED: LoopsWanted = { layers: 'parted', withoutDirect: false };
const WHOLE: LoopsWanted = { layers: 'whole', withoutDirect: false };

describe('a scene', () => {
  const [session] = SESSIONS;
  const base = session as Session;

  it('sounds as its figures say: level and time of every player alone, dry, in three demos', async () => {
    const engine = (await fastEngine()) ?? plainEngine;
    let compared = 0;
    for (const one of SESSIONS) {
      const main = one.arrays.find(({ role }) => role === 'main') ?? one.arrays[0];
      if (!main) throw new Error('no array');
      const technique = {
        kind: 'pair',
        pattern: 'cardioid',
        spacingM: 0.17,
        includedAngleDeg: 110,
      } as const;
      const dry: Session = {
        ...one,
        arrays: [{ ...main, technique }],
        sources: one.sources.map((source) => ({ ...source, widthM: 0, depthM: 0 })),
        venue: { ...one.venue, widthM: null },
      };
      const figures = analyseSession(dry).arrays[0]?.sources ?? [];
      for (const source of dry.sources.slice(0, 4)) {
        const scene = sceneIn({ ...dry, sources: [source] });
        const points = scene.points.map((point) => ({ ...point, plays: noise(point.plays) }));
        const { layers } = await loopsOf({ ...scene, points }, WHOLE, engine);
        const [left, right] = layers[0]?.loop ?? [];
        if (!left || !right) throw new Error('no sound');
        const found = delayBetween(left, right, RATE, 5);
        const told = figures.find(({ id }) => id === source.id);
        expect(Math.abs((found?.levelDb ?? 99) - (told?.icldDb ?? 0))).toBeLessThan(0.02);
        expect(Math.abs((found?.delayMs ?? 99) + (told?.ictdMs ?? 0))).toBeLessThan(0.001);
        compared += 1;
      }
    }
    expect(compared).toBeGreaterThan(6);
  }, 60_000);

  it.each([
    ['always', ['rest']],
    ['by stem', ['near', 'rest']],
    ['direct by stem', ['near', 'rest']],
  ] as const)(
    'is the same in parts as whole, with what follows the hand %s',
    async (live, names) => {
      const engine = (await fastEngine()) ?? plainEngine;
      const two = base.sources.slice(0, 2).map((source) => ({ ...source, widthM: 0, depthM: 0 }));
      const own = sceneIn({ ...base, sources: two });
      expect(own.live).toBe('always');
      const scene: Scene = { ...own, live };
      const whole = await loopsOf(scene, WHOLE, engine);
      const parted = await loopsOf(scene, PARTED, engine);
      expect([...new Set(parted.layers.map(({ name }) => name))]).toEqual(names);
      expect(parted.loudness).toBeCloseTo(whole.loudness ?? 0, 3);
      expect(Math.abs(expectedLoudness(scene) - (whole.loudness ?? 0))).toBeLessThan(6);
      const frames = whole.layers[0]?.loop[0].length ?? 0;
      const mixers = [whole, parted].map(({ layers }, i) => {
        const mixer = new ListenMixer(frames, RATE, BLOCK);
        mixer.open('plan', ['s0', 's1'], 1);
        for (const { stem, name, loop } of layers) mixer.fill('plan', stem, name, loop);
        if (i === 1) {
          const points = livePoints(scene);
          const loops = points.map((point) => guarded(doubled(loopOf(point))));
          const stems = points.map(({ stem }) => stem);
          mixer.setLive('plan', new LiveMix(loops, stems, poseOf(scene), RATE));
        }
        mixer.hear(PLAIN);
        mixer.setLiveOnly(true);
        mixer.play(true);
        mixer.seek(48_000);
        mixer.choose('plan');
        return run(mixer, 300).raw.flatMap(([left]) => [...left]);
      });
      const [a, b] = mixers as [number[], number[]];
      const off = a.reduce((sum, value, i) => sum + (value - (b[i] ?? 0)) ** 2, 0);
      const all = a.reduce((sum, value) => sum + value * value, 0);
      // What lies above 8 kHz is read less truly between the samples.
      expect(10 * Math.log10(off / all)).toBeLessThan(-50);
    },
    60_000,
  );

  it('sounds the same by plain transforms', async () => {
    const phrase = loopOf(sceneIn(base).points[0] as { plays: PhraseSpec });
    const twice = [plainEngine, (await fastEngine()) ?? plainEngine].map((engine) =>
      doubled(phrase, engine),
    );
    const wrong = twice[0]?.reduce((sum, v, i) => sum + (v - (twice[1]?.[i] ?? 9)) ** 2, 0) ?? 9;
    const power = twice[0]?.reduce((sum, v) => sum + v * v, 0) ?? 0;
    expect(10 * Math.log10(wrong / power)).toBeLessThan(-60);
    const one = { ...base, sources: base.sources.slice(0, 1) };
    const scene = sceneIn(one);
    const slow = await loopsOf(scene, WHOLE);
    const fast = await loopsOf(scene, WHOLE, (await fastEngine()) ?? plainEngine);
    const [a, b] = [slow, fast].map(({ layers }) => layers[0]?.loop[0] ?? new Float32Array());
    const off = a?.reduce((sum, value, i) => sum + (value - (b?.[i] ?? 0)) ** 2, 0) ?? 1;
    const all = a?.reduce((sum, value) => sum + value * value, 0) ?? 1;
    expect(10 * Math.log10(off / all)).toBeLessThan(-100);
  }, 60_000);

  it('of the room alone has no direct sound, and is softer', async () => {
    const one = { ...base, sources: base.sources.slice(0, 1) };
    const scene = sceneIn(one);
    const engine = (await fastEngine()) ?? plainEngine;
    const whole = await loopsOf(scene, WHOLE, engine);
    const room = await loopsOf(scene, { layers: 'whole', withoutDirect: true }, engine);
    expect(room.loudness ?? 0).toBeLessThan((whole.loudness ?? 0) - 0.5);
  }, 60_000);

  it('of many players has a dozen stems, and says what follows the hand', () => {
    const [first] = base.sources;
    if (!first) throw new Error('no player');
    const sources = Array.from({ length: 500 }, (_, i) => ({
      ...first,
      id: `s${i}`,
      name: `Player ${i}`,
      group: `Section ${i % 20}`,
    }));
    const scene = sceneIn({ ...base, sources });
    expect(scene.stems.length).toBe(MOST_STEMS);
    expect(scene.stems.flatMap(({ sourceIds }) => sourceIds).length).toBe(500);
    expect(scene.live).toBe('by stem');
    expect(scene.notes.join()).toContain('every section sounds from its middle');
    expect(sceneOf({ ...base, sources: [] }, 'mix', RATE).ok).toBe(false);
    expect(sceneOf({ ...base, arrays: [] }, 'mix', RATE).ok).toBe(false);
  });

  it('through more microphones has its direct sound follow the hand, and through very many nothing', () => {
    const [first] = base.sources;
    const [array] = base.arrays;
    if (!first || !array) throw new Error('no player or array');
    const sources = Array.from({ length: 12 }, (_, i) => ({ ...first, id: `s${i}`, widthM: 0 }));
    const through = (capsules: number): Scene =>
      sceneIn(
        { ...base, sources },
        {
          ...array,
          technique: {
            kind: 'custom',
            capsules: Array.from({ length: capsules }, (_, i) => ({
              ...{ label: `${i}`, dx: i / 4, dy: 0, dz: 0, azimuthDeg: 0, elevationDeg: 0 },
              pattern: 'omni' as const,
            })),
          },
        },
      );
    expect(through(2).live).toBe('always');
    expect(through(3).live).toBe('direct by stem');
    expect(through(3).notes.join()).toContain('every player sounds from its middle');
    expect(through(3).notes.join()).toContain('the direct sound follows the hand');
    expect(poseOf(through(3)).room).toBeNull();
    expect(through(14).live).toBe('direct by stem');
    expect(through(15).live).toBe('at rest');
    expect(through(15).notes).toContain('what is moved is heard when the hand rests');
  });

  it('of the mix is heard through the arrays that are chosen, and says so where none is left', () => {
    const [array] = base.arrays;
    if (!array) throw new Error('no array');
    const other = { ...array, id: 'other', role: 'outrigger' as const, y: array.y + 1 };
    const session: Session = { ...base, arrays: [array, other] };
    const through = (arrayIds: readonly string[] | null) =>
      sceneOf(session, 'mix', RATE, { arrayIds });
    const all = through(null);
    const one = through(['other']);
    if (!all.ok || !one.ok) throw new Error('no scene');
    expect(all.value.capsules.length).toBe(2 * one.value.capsules.length);
    expect(one.value.capsules.every(({ live }) => live)).toBe(true);
    const none = through([]);
    expect(none.ok ? '' : none.message).toContain('No array is heard');
  });
});

describe('the head', () => {
  it('has a sound from one side earlier and louder at that ear, as the sphere has it', () => {
    const [near, far] = headFilters(RATE);
    const at = (taps: Float32Array, hz: number) => {
      let [re, im] = [0, 0];
      taps.forEach((value, i) => {
        re += value * Math.cos((2 * Math.PI * hz * i) / RATE);
        im -= value * Math.sin((2 * Math.PI * hz * i) / RATE);
      });
      return { size: Math.hypot(re, im), phase: Math.atan2(im, re) };
    };
    for (const hz of [300, 500, 1000, 2000]) {
      const [n, f] = [at(near, hz), at(far, hz)];
      const [a, b] = [70, 130].map((deg) => spherePressure(Math.cos((deg * Math.PI) / 180), hz));
      const size = Math.hypot(a?.re ?? 0, a?.im ?? 0) / Math.hypot(b?.re ?? 0, b?.im ?? 0);
      expect(20 * Math.log10(n.size / f.size)).toBeCloseTo(20 * Math.log10(size), 0);
    }
    const later = (at(near, 400).phase - at(far, 400).phase) / (2 * Math.PI * 400);
    expect(later * 1000).toBeGreaterThan(0.37);
    expect(later * 1000).toBeLessThan(0.42);
  });
});
