/** All phrases are in D major and at one tempo, so that any players fit together. */
export const TEMPO_BPM = 90;
export const BEAT_S = 60 / TEMPO_BPM;
/** Beats of one round: two phrases, each with a rest at its end. */
export const BEATS = 24;
/** Length of one round, s. */
export const PHRASE_S = BEATS * BEAT_S;

export const PHRASE_NAMES = ['chorale', 'scale', 'long-tones', 'staccato'] as const;
export type PhraseName = (typeof PHRASE_NAMES)[number];

/** Which of four lines a player takes. */
export type Voice = 'soprano' | 'alto' | 'tenor' | 'bass';
export const VOICES = ['soprano', 'alto', 'tenor', 'bass'] as const satisfies readonly Voice[];

/** Beat, length in beats, key; a swell within it, dB. */
export type Written = readonly [beat: number, beats: number, key: number, swellDb?: number];

/** Four parts that move at times of their own, and a second phrase that they begin one after another. */
const CHORALE: Readonly<Record<Voice, readonly Written[]>> = {
  soprano: [
    [0, 2, 74],
    [2, 1, 74],
    [3, 1, 73],
    [4, 1.5, 74],
    [5.5, 0.5, 76],
    [6, 1, 76],
    [7, 1, 73],
    [8, 2.5, 74],
    [12, 1.5, 71],
    [13.5, 0.5, 73],
    [14, 1, 74],
    [15, 1, 76],
    [16, 2, 78, 2],
    [18, 1, 79],
    [19, 0.5, 78],
    [19.5, 0.5, 76],
    [20, 2.5, 74],
  ],
  alto: [
    [0, 1, 69],
    [1, 0.5, 67],
    [1.5, 0.5, 69],
    [2, 1, 71],
    [3, 1, 69],
    [4, 2, 66],
    [6, 0.5, 67],
    [6.5, 0.5, 66],
    [7, 1, 69],
    [8, 3, 66],
    [12.5, 1.5, 67],
    [14, 1, 69],
    [15, 0.5, 69],
    [15.5, 0.5, 67],
    [16, 1, 66],
    [17, 1, 71],
    [18, 1, 71],
    [19, 1, 69],
    [20, 3, 66],
  ],
  tenor: [
    [0, 2, 66],
    [2, 1, 67],
    [3, 1, 64],
    [4, 1, 62],
    [5, 1, 61],
    [6, 1, 59],
    [7, 0.75, 61],
    [7.75, 0.25, 59],
    [8, 2, 57],
    [13, 1, 62],
    [14, 1, 66],
    [15, 1, 61],
    [16, 1.5, 62],
    [17.5, 0.5, 64],
    [18, 1, 64],
    [19, 1, 61],
    [20, 2.5, 62],
  ],
  bass: [
    [0, 1, 50],
    [1, 1, 52],
    [2, 1, 55],
    [3, 1, 57],
    [4, 1, 59],
    [5, 1, 57],
    [6, 1, 52],
    [7, 1, 45],
    [8, 3, 50],
    [12, 2, 55],
    [15, 1, 57],
    [16, 1, 59],
    [17, 1, 57],
    [18, 1, 52],
    [19, 1, 45],
    [20, 3, 50],
  ],
};
const TONIC: Readonly<Record<Voice, number>> = { soprano: 74, alto: 66, tenor: 62, bass: 50 };
const STEPS = [0, 2, 4, 5, 7, 9, 11, 12];
const LEAPS = [0, 4, 7, 12, 7, 4, 5, 9, 7, 2, 0];
/** Steps by thirds, down again. */
const THIRDS = [12, 9, 11, 7, 9, 5, 7, 4, 5, 2, 4, 0];

/** Lengths of the notes of a scale, in turn, and the beat at which it begins. */
const PACE: Readonly<Record<Voice, { from: number; beats: readonly number[] }>> = {
  soprano: { from: 0, beats: [0.5] },
  alto: { from: 0, beats: [0.75, 0.25] },
  tenor: { from: 1, beats: [0.5] },
  bass: { from: 0, beats: [1] },
};

/** Steps at a pace from a beat on, as far as there is time; the last one held. */
function paced(
  steps: readonly number[],
  tonic: number,
  [from, until]: readonly [number, number],
  beats: readonly number[],
): Written[] {
  const out: [number, number, number][] = [];
  let at = from;
  for (const [i, step] of steps.entries()) {
    const length = beats[i % beats.length] ?? 1;
    if (at + length > until) break;
    out.push([at, length, tonic + step]);
    at += length;
  }
  const last = out[out.length - 1];
  if (last) last[1] = Math.min(3, until - last[0]);
  return out;
}

/** One line of a phrase. */
export function written(phrase: PhraseName, voice: Voice): Written[] {
  const tonic = TONIC[voice];
  const { from, beats } = PACE[voice];
  switch (phrase) {
    case 'chorale':
      return [...CHORALE[voice]];
    case 'scale': {
      const turns = [...STEPS, ...STEPS.slice(0, -1).reverse()];
      return [
        ...paced(turns, tonic, [from, 11], beats),
        ...paced(THIRDS, tonic, [12 + from / 2, 23], beats),
      ];
    }
    case 'long-tones': {
      const late = from / 2 + (voice === 'alto' ? 0.25 : 0);
      return [
        [late, 5 - late, tonic],
        [5.5 + late, 5.5 - late, tonic + 7],
        // A swell within each.
        [12.5 + late, 5 - late, tonic + 5, 9],
        [18 + late, 5 - late, tonic, 9],
      ];
    }
    case 'staccato': {
      // Every line at beats of its own: on them, off them, every second one, and in threes.
      const step = { soprano: 1, alto: 1, tenor: 2 / 3, bass: 2 }[voice];
      const begin = voice === 'alto' ? 0.5 : 0;
      const line = (at: number, leaps: readonly number[]): Written[] =>
        Array.from({ length: Math.floor((10.5 - begin) / step) + 1 }, (_, i): Written => {
          return [at + begin + i * step, 0.3, tonic + (leaps[i % leaps.length] ?? 0)];
        });
      return [...line(0, LEAPS), ...line(12, [...LEAPS].reverse())];
    }
  }
}

/** D and A of every octave, with what makes a chord of each, and G. */
const [ON_TONIC, ON_DOMINANT, ON_SUBDOMINANT] = [
  [2, 6, 9],
  [9, 1, 4],
  [7, 11, 2],
];

/** The keys of a chord from one key to another. */
const chordKeys = (classes: readonly number[], low: number, high: number): number[] =>
  Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((key) =>
    classes.includes(key % 12),
  );

/** Every so many beats of a run, and how long a run of a harp or a broken chord takes. */
const RUN_BEATS = 0.25;
const BROKEN_BEATS = 1.75;

/** Every key of a broken chord, one after another, all held to its end. */
function broken(from: number, keys: readonly number[]): Written[] {
  const step = BROKEN_BEATS / keys.length;
  return keys.map((key, i) => [from + i * step, 2.25 - i * step, key]);
}

/**
 * The same for two hands, from one end of a keyboard or of a harp's strings to the other: each phrase
 * comes to both ends, so that the whole of a wide instrument sounds.
 */
export function writtenForTwoHands(
  phrase: PhraseName,
  [low, high]: readonly [number, number],
): Written[] {
  const everySecond = (keys: readonly number[]): number[] => keys.filter((_, i) => i % 2 === 0);
  switch (phrase) {
    case 'chorale': {
      const four = VOICES.flatMap((voice) => CHORALE[voice]);
      // Long notes at both ends are doubled by their octaves.
      const octaves = (voice: Voice, keys: number): Written[] =>
        CHORALE[voice]
          .filter(([, beats]) => beats > 1)
          .map(([beat, beats, key]) => [beat, beats, key + keys]);
      const keys = everySecond(chordKeys(ON_TONIC, low, high));
      return [
        ...four,
        ...octaves('soprano', 12),
        ...octaves('bass', -12),
        ...broken(8.75, keys),
        ...broken(20.75, [...keys].reverse()),
      ];
    }
    case 'scale': {
      // Up and down again over everything that there is, above a slow bass; then down and up.
      const all = chordKeys([2, 4, 6, 7, 9, 11, 1], low, high);
      const count = Math.floor(10.5 / RUN_BEATS);
      const run = (from: number, up: boolean): Written[] =>
        Array.from({ length: count }, (_, i) => {
          const away = Math.abs((2 * i) / (count - 1) - 1);
          const share = up ? 1 - away : away;
          return [
            from + i * RUN_BEATS,
            RUN_BEATS,
            all[Math.round(share * (all.length - 1))] ?? low,
          ];
        });
      const slow: Written[] = [
        [0, 5, 38],
        [5, 5, 45],
        [10.5, 1.2, 50],
      ];
      const again = slow.map(([beat, beats, key]): Written => [beat + 12, beats, key]);
      return [...run(0, true), ...slow, ...run(12, false), ...again];
    }
    case 'long-tones': {
      const chord = (beat: number, classes: readonly number[], swellDb: number): Written[] =>
        everySecond(chordKeys(classes, low, high)).map((key) => [beat, 5, key, swellDb]);
      return [
        ...chord(0, ON_TONIC, 0),
        ...chord(5.5, ON_DOMINANT, 0),
        ...chord(12.5, ON_SUBDOMINANT, 9),
        ...chord(18, ON_TONIC, 9),
      ];
    }
    case 'staccato': {
      const line = (from: number, leaps: readonly number[]): Written[] =>
        leaps.flatMap((step, i): Written[] => [
          [from + i, 0.3, 38 + step],
          [from + i, 0.3, 62 + step],
          [from + i + 0.5, 0.3, 74 + step],
          [from + i + 0.5, 0.3, (i % 2 === 0 ? 26 : 86) + step],
        ]);
      return [...line(0, LEAPS), ...line(12, [...LEAPS].reverse())];
    }
  }
}

/**
 * How loud the music is at a beat against its usual, 0 … 1 as a force: the second phrase begins softly,
 * grows and goes back.
 */
export function swellAt(beat: number): number {
  if (beat < BEATS / 2) return 0;
  return -0.2 + 0.45 * Math.sin((Math.PI * (beat - BEATS / 2)) / (BEATS / 2 - 1)) ** 2;
}
