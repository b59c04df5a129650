import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../../ensembles/instruments';
import { powerOfTwo, spectrumOf } from '../signal/spectrum';
import { playerFor, PLAYER_NAMES, PLAYERS, type Player, type PlayerName } from './kinds';
import { phraseOf, scoreOf, soundingRms } from './phrase';
import { PHRASE_NAMES, PHRASE_S } from './score';
import { playStruck } from './struck';
import { playSung } from './sung';
import { playSustained } from './sustained';

const RATE = 48_000;

/** One note of a player, two seconds held and what follows. */
function noteOf(name: PlayerName, key: number, force = 0.6, lengthS = 2, seed = 11): Float32Array {
  const player: Player = PLAYERS[name];
  const out = new Float32Array(5 * RATE);
  const note = { atS: 0, lengthS, key, force, seed, syllable: 0, swellDb: 0 };
  if (player.model === 'sustained') playSustained(player.sound, note, out, RATE);
  if (player.model === 'struck' || player.model === 'strokes')
    playStruck(player.sound, note, out, RATE);
  if (player.model === 'sung') playSung(player.sound, note, out, RATE);
  return out;
}

const levels = (samples: Float32Array, stepS = 0.01): number[] =>
  Array.from({ length: Math.floor(samples.length / (stepS * RATE)) }, (_, j) => {
    const piece = samples.subarray(j * stepS * RATE, (j + 1) * stepS * RATE);
    return Math.sqrt(piece.reduce((sum, value) => sum + value * value, 0) / piece.length);
  });

/** Time from a tenth to nine tenths of the level that it has later on, s. */
function attackOf(samples: Float32Array): number {
  const list = levels(samples, 0.005);
  // What a vibrato makes of a formant's slope comes later, and is no attack.
  const usual = [...list.slice(40, 200)].sort((a, b) => a - b)[80] ?? 0;
  const held = Math.min(Math.max(...list.slice(0, 200)), 1.05 * usual);
  const at = (part: number): number => list.findIndex((level) => level >= part * held);
  return (at(0.9) - at(0.1)) * 0.005;
}

const powers = (samples: Float32Array, fromS: number, forS: number): [Float64Array, number] => {
  const piece = samples.subarray(fromS * RATE, (fromS + forS) * RATE);
  const size = 4 * powerOfTwo(piece.length);
  const windowed = piece.map(
    (v, i) => v * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / piece.length)),
  );
  const spectrum = spectrumOf(windowed, size);
  const out = Float64Array.from(
    { length: size / 2 },
    (_, k) => (spectrum[2 * k] ?? 0) ** 2 + (spectrum[2 * k + 1] ?? 0) ** 2,
  );
  return [out, RATE / size];
};

function centroid(samples: Float32Array): number {
  const [power, binHz] = powers(samples, 0.5, 1);
  let [sum, total] = [0, 0];
  power.forEach((value, k) => {
    sum += k * binHz * value;
    total += value;
  });
  return sum / total;
}

/** Cents that the partial nearest to a frequency is off it. */
function centsOff(samples: Float32Array, hz: number): number {
  const [power, binHz] = powers(samples, 0.1, 1.6);
  const near = hz / binHz;
  // The middle of the line, as vibrato spreads it.
  let [sum, total] = [0, 0];
  for (let k = Math.floor(near * 0.95); k <= near * 1.05; k++) {
    sum += k * (power[k] ?? 0);
    total += power[k] ?? 0;
  }
  return 1200 * Math.log2(((sum / total) * binHz) / hz);
}

/**
 * Cents that a tone is off a frequency on average, by the phase of its fundamental: whatever the partial's
 * strength does meanwhile, as a formant's slope makes it do in a vibrato.
 */
function meanCentsOff(samples: Float32Array, hz: number): number {
  const window = Math.round((8 * RATE) / hz);
  const [from, to] = [0.3 * RATE, 1.5 * RATE];
  const phases: number[] = [];
  for (let at = from; at + window < to; at += window / 8) {
    let [re, im] = [0, 0];
    for (let i = 0; i < window; i++) {
      const n = Math.round(at) + i;
      const weight = 1 - Math.cos((2 * Math.PI * i) / window);
      re += weight * (samples[n] ?? 0) * Math.cos((2 * Math.PI * hz * n) / RATE);
      im -= weight * (samples[n] ?? 0) * Math.sin((2 * Math.PI * hz * n) / RATE);
    }
    const phase = Math.atan2(im, re);
    const last = phases[phases.length - 1] ?? phase;
    phases.push(phase - 2 * Math.PI * Math.round((phase - last) / (2 * Math.PI)));
  }
  // A straight line through it: turns a step.
  const middle = (phases.length - 1) / 2;
  const [up, across] = phases.reduce(
    ([a, b], phase, i) => [a + (i - middle) * phase, b + (i - middle) ** 2],
    [0, 0],
  );
  const off = up / across / (2 * Math.PI) / (window / 8 / RATE);
  return 1200 * Math.log2((hz + off) / hz);
}

const db = (ratio: number): number => 10 * Math.log10(ratio);

/** What a musician would expect of each kind: attack, s; a key in its middle. */
const HELD = [
  ['violin', 69, 0.02, 0.1],
  ['viola', 62, 0.02, 0.12],
  ['cello', 50, 0.02, 0.12],
  ['double bass', 38, 0.03, 0.16],
  ['flute', 74, 0.02, 0.1],
  ['oboe', 70, 0.01, 0.06],
  ['clarinet', 65, 0.01, 0.08],
  ['bassoon', 50, 0.01, 0.08],
  ['horn', 57, 0.01, 0.09],
  ['trumpet', 70, 0.005, 0.06],
  ['trombone', 55, 0.01, 0.07],
  ['organ pipe', 60, 0.01, 0.09],
  ['soprano', 74, 0.02, 0.14],
  ['tenor', 60, 0.02, 0.14],
] as const;

describe('held tones', () => {
  it.each(HELD)('%s sets in as it should and is in tune', (name, key, least, most) => {
    const tone = noteOf(name, key);
    expect(attackOf(tone)).toBeGreaterThanOrEqual(least);
    expect(attackOf(tone)).toBeLessThanOrEqual(most);
    expect(Math.abs(meanCentsOff(tone, 440 * 2 ** ((key - 69) / 12)))).toBeLessThan(3);
    // Let go, it is gone within a third of a second.
    const list = levels(tone);
    expect(list[235] ?? 1).toBeLessThan(0.01 * Math.max(...list));
  });

  it.each(['violin', 'trumpet', 'trombone', 'horn', 'oboe', 'flute'] as const)(
    '%s is brighter when it is louder',
    (name) => {
      const [soft, loud] = [noteOf(name, 69, 0.3), noteOf(name, 69, 1)];
      expect(centroid(loud)).toBeGreaterThan(centroid(soft) * 1.05);
      expect(Math.max(...levels(loud))).toBeGreaterThan(2 * Math.max(...levels(soft)));
    },
  );

  it('a clarinet has odd partials, an oboe all of them', () => {
    const even = (name: PlayerName): number => {
      const [power, binHz] = powers(noteOf(name, 53), 0.5, 1);
      const at = (k: number): number => {
        const bin = Math.round((k * 440 * 2 ** ((53 - 69) / 12)) / binHz);
        return Math.max(...power.subarray(bin - 3, bin + 4));
      };
      return db(at(2) / at(3));
    };
    expect(even('clarinet')).toBeLessThan(-10);
    expect(even('oboe')).toBeGreaterThan(-10);
  });

  it('a violin swings six times a second by a fifth of a semitone, a horn does not', () => {
    const swing = (name: PlayerName): { hz: number; cents: number } => {
      const tone = noteOf(name, 69);
      const fundamental = 440;
      // Phase of the fundamental every 10 ms, after the vibrato has set in.
      const phases = Array.from({ length: 120 }, (_, j) => {
        let [re, im] = [0, 0];
        for (let i = 0; i < 960; i++) {
          const n = 0.7 * RATE + j * 480 + i;
          const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / 960);
          re += window * (tone[n] ?? 0) * Math.cos((2 * Math.PI * fundamental * n) / RATE);
          im -= window * (tone[n] ?? 0) * Math.sin((2 * Math.PI * fundamental * n) / RATE);
        }
        return Math.atan2(im, re);
      });
      const off = phases.slice(1).map((phase, j) => {
        let turn = phase - (phases[j] ?? 0);
        turn -= 2 * Math.PI * Math.round(turn / (2 * Math.PI));
        return 1200 * Math.log2(1 + turn / (2 * Math.PI * 0.01 * fundamental));
      });
      const crossings = off.slice(1).filter((value, j) => value > 0 !== (off[j] ?? 0) > 0).length;
      return { hz: crossings / 2 / 1.18, cents: (Math.max(...off) - Math.min(...off)) / 2 };
    };
    const violin = swing('violin');
    expect(violin.hz).toBeGreaterThan(4.5);
    expect(violin.hz).toBeLessThan(7);
    expect(violin.cents).toBeGreaterThan(12);
    expect(violin.cents).toBeLessThan(35);
    expect(swing('horn').cents).toBeLessThan(3);
  });

  it('voices have their formants and no hole from 2 to 5 kHz, and air above', () => {
    for (const name of ['soprano', 'alto', 'tenor', 'bass', 'choir'] as const) {
      const phrase = phraseOf(name, 'chorale', 3, RATE);
      const [power, binHz] = powers(phrase, 0, 5);
      const band = (low: number, high: number): number => {
        let sum = 0;
        for (let k = Math.round(low / binHz); k < high / binHz; k++) sum += power[k] ?? 0;
        return sum;
      };
      const all = band(50, 20_000);
      expect(db(band(2000, 5000) / all)).toBeGreaterThan(-33);
      for (const hz of [2000, 2520, 3175, 4000]) {
        expect(db(band(hz, hz * 1.26) / all)).toBeGreaterThan(-55);
      }
      expect(db(band(6000, 12_000) / all)).toBeGreaterThan(-70);
    }
  });
});

describe('tones that die away', () => {
  it.each([
    ['guitar', 52, 1, 6],
    ['lute', 55, 0.7, 5],
    ['harp', 62, 1.2, 8],
    ['harpsichord', 60, 1.2, 8],
    ['piano', 60, 2, 14],
    ['timpani', 45, 0.5, 4],
  ] as const)('%s is in tune and falls by 60 dB as it should', (name, key, least, most) => {
    const tone = noteOf(name, key, 0.6, 4.9);
    expect(Math.abs(centsOff(tone, 440 * 2 ** ((key - 69) / 12)))).toBeLessThan(3);
    const list = levels(tone, 0.05);
    const [from, to] = [10, 40];
    const fall = (2 * db((list[from] ?? 1) / (list[to] ?? 1))) / ((to - from) * 0.05);
    expect(60 / fall).toBeGreaterThan(least);
    expect(60 / fall).toBeLessThan(most);
    expect(attackOf(tone)).toBeLessThan(0.03);
  });

  it('a piano falls fast at first and slowly then, and its partials are stretched', () => {
    // Its strings beat, each note from another phase: what all of them have is their mean.
    const lists = Array.from({ length: 12 }, (_, i) =>
      levels(noteOf('piano', 60, 0.6, 4.9, 11 + i), 0.1),
    );
    const fall = (from: number, to: number): number =>
      lists.reduce((sum, list) => sum + db((list[from] ?? 1) / (list[to] ?? 1)), 0) / (to - from);
    expect(fall(1, 10)).toBeGreaterThan(1.3 * fall(25, 45));
    const [power, binHz] = powers(noteOf('piano', 48), 0.1, 1);
    const fundamental = 440 * 2 ** ((48 - 69) / 12);
    let top = Math.round((7.95 * fundamental) / binHz);
    for (let k = top; k < (8.4 * fundamental) / binHz; k++) {
      if ((power[k] ?? 0) > (power[top] ?? 0)) top = k;
    }
    expect((top * binHz) / fundamental).toBeGreaterThan(8.05);
  });
});

const alike = (a: Float32Array, b: Float32Array): number => {
  let [both, one, other] = [0, 0, 0];
  a.forEach((value, i) => {
    const second = b[i] ?? 0;
    both += value * second;
    one += value * value;
    other += second * second;
  });
  return both / Math.sqrt(one * other);
};

describe('many who play the same', () => {
  it.each(['violin', 'soprano', 'trumpet'] as const)(
    'two of a section of %s differ in time and pitch, and not by much',
    (name) => {
      const scores = [1, 2, 3, 4, 5, 6, 7, 8].map((seed) => scoreOf(name, 'chorale', seed * 77));
      const means = scores.map((notes) => ({
        cents:
          notes.reduce((sum, { key }) => sum + 100 * (key - Math.round(key)), 0) / notes.length,
        lateS:
          notes.reduce((sum, { atS }, i) => sum + atS - (scores[0]?.[i]?.atS ?? 0), 0) /
          notes.length,
      }));
      const spread = (of: (one: (typeof means)[number]) => number): number =>
        Math.max(...means.map(of)) - Math.min(...means.map(of));
      expect(spread(({ cents }) => cents)).toBeGreaterThan(3);
      expect(spread(({ cents }) => cents)).toBeLessThan(16);
      expect(spread(({ lateS }) => lateS)).toBeGreaterThan(0.004);
      expect(spread(({ lateS }) => lateS)).toBeLessThan(0.05);
      const [one, other] = [1, 2].map((seed) => phraseOf(name, 'chorale', seed * 77, 24_000));
      expect(Math.abs(alike(one ?? new Float32Array(), other ?? new Float32Array()))).toBeLessThan(
        0.3,
      );
    },
  );

  it('singers of one choir sing the same words, each with a mouth of one’s own', () => {
    const [a, b] = [noteOf('tenor', 60, 0.6, 2, 11), noteOf('tenor', 60, 0.6, 2, 12)];
    const peak = (tone: Float32Array): number => {
      const [power, binHz] = powers(tone, 0.5, 1);
      let [sum, total] = [0, 0];
      for (let k = Math.round(400 / binHz); k < 1500 / binHz; k++) {
        sum += k * binHz * (power[k] ?? 0);
        total += power[k] ?? 0;
      }
      return sum / total;
    };
    const off = Math.abs(peak(a) / peak(b) - 1);
    expect(off).toBeGreaterThan(0.002);
    expect(off).toBeLessThan(0.15);
  });

  it('a choir has all four voices, each in its range and at its own times', () => {
    const notes = scoreOf('choir', 'chorale', 4);
    const by = (voice: string) => notes.filter((note) => note.voice === voice);
    const means = ['soprano', 'alto', 'tenor', 'bass'].map((voice) => {
      const keys = by(voice).map(({ key }) => key);
      return keys.reduce((sum, key) => sum + key, 0) / keys.length;
    });
    expect(means).toEqual([...means].sort((a, b) => b - a));
    const begins = ['soprano', 'alto', 'tenor', 'bass'].map((voice) =>
      by(voice).map(({ atS }) => Math.round((atS / PHRASE_S) * 48)),
    );
    for (const [i, list] of begins.entries()) {
      for (const other of begins.slice(0, i)) expect(list).not.toEqual(other);
    }
  });
});

describe('phrases', () => {
  it('go on for 16 s before they come round, with rests, and a second one that swells', () => {
    expect(PHRASE_S).toBeGreaterThanOrEqual(16);
    for (const name of ['violin', 'viola', 'cello', 'soprano', 'piano', 'choir'] as const) {
      for (const phrase of PHRASE_NAMES) {
        const notes = scoreOf(name, phrase, 3);
        const ends = (from: number, to: number): boolean =>
          notes.some(({ atS, lengthS }) => atS < to && atS + lengthS > from);
        // A rest between the phrases and one at the end; both phrases are there.
        expect(ends(7.85, 7.95), `${name} ${phrase}`).toBe(false);
        expect(ends(15.85, 15.95), `${name} ${phrase}`).toBe(false);
        expect(ends(1, 7) && ends(9, 15)).toBe(true);
      }
      const forces = scoreOf(name, 'chorale', 3);
      const mean = (from: number, to: number): number => {
        const list = forces.filter(({ atS }) => atS >= from && atS < to);
        return list.reduce((sum, { force }) => sum + force, 0) / list.length;
      };
      expect(mean(11, 13.3)).toBeGreaterThan(mean(7.9, 9.2) + 0.15);
      expect(mean(11, 13.3)).toBeGreaterThan(mean(15.2, 16) || 0);
    }
  });

  it('swell within a long tone as well', () => {
    const [even, swelling] = [0, 9].map((swellDb) => {
      const out = new Float32Array(4 * RATE);
      const sound = PLAYERS.horn.model === 'sustained' ? PLAYERS.horn.sound : null;
      if (!sound) throw new Error('a horn is blown');
      playSustained(
        sound,
        { atS: 0, lengthS: 3, key: 57, force: 0.5, seed: 4, syllable: 0, swellDb },
        out,
        RATE,
      );
      const list = levels(out, 0.05);
      return db((list[30] ?? 1) ** 2 / (list[5] ?? 1) ** 2);
    });
    expect((swelling ?? 0) - (even ?? 0)).toBeGreaterThan(6);
    expect((swelling ?? 0) - (even ?? 0)).toBeLessThan(16);
  });

  it.each(PLAYER_NAMES)(
    '%s is at its level, the same for its seed, and no two notes alike',
    (name) => {
      const phrase = phraseOf(name, 'chorale', 5, 24_000);
      expect(phrase.length).toBe(Math.round(PHRASE_S * 24_000));
      expect(soundingRms(phrase, 24_000)).toBeCloseTo(1, 4);
      expect(phrase.every(Number.isFinite)).toBe(true);
      expect(phraseOf(name, 'chorale', 5, 24_000)).toEqual(phrase);
      const notes = scoreOf(name, 'chorale', 5);
      expect(new Set(notes.map(({ seed }) => seed)).size).toBe(notes.length);
    },
  );

  it('stay in the range of their instrument, whatever is played', () => {
    for (const name of PLAYER_NAMES) {
      const player: Player = PLAYERS[name];
      if (!('range' in player)) continue;
      for (const phrase of PHRASE_NAMES) {
        for (const { key, atS, lengthS } of scoreOf(name, phrase, 1)) {
          expect(key).toBeGreaterThan(player.range[0] - 0.1);
          expect(key).toBeLessThan(player.range[1] + 13);
          expect(atS + lengthS).toBeLessThan(PHRASE_S);
        }
      }
    }
  });

  it('every instrument of the catalogue has a sound of its own', () => {
    const silent = INSTRUMENTS.filter(({ kind }) => playerFor(kind) === 'pink noise');
    expect(silent.map(({ kind }) => kind)).toEqual([]);
    expect([playerFor('Viola da gamba'), playerFor('Bass drum'), playerFor('Bass')]).toEqual([
      'cello',
      'bass drum',
      'bass',
    ]);
    expect(playerFor('')).toBe('pink noise');
  });
});
