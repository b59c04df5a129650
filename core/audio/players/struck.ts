import { fallDb, HIGHEST_HZ } from './brightness';
import { BESIDE_QUARTER, fourfold } from '../signal/doubling';
import { seededRandom } from '../../units/random';
import type { Note } from './score';

/** An instrument whose tones die away: plucked, struck or hammered. */
export interface Struck {
  /** frequencies of its modes against the first; harmonics where it is a string */
  modes: 'string' | readonly number[];
  /** of a string: its stiffness, as f = k·f₁·√(1 + B·k²) */
  stiffness: number;
  /** of a string: where it is plucked or struck, part of its length; 0 of others */
  struckAt: number;
  /** fall of its modes, dB an octave, struck softly and loudly */
  tiltDb: readonly [soft: number, loud: number];
  /** time of 60 dB of the lowest key in the middle of its range, and of high partials, s */
  decayS: number;
  /** frequency at which that time has halved, Hz */
  halfHz: number;
  /** a second, slower decay: its share of the amplitude and how many times longer it is */
  slow: { share: number; times: number };
  /** beating strings of a note, cents apart; 0 has one */
  detuneCents: number;
  attackS: number;
  /** when the player lets go, s; Infinity where nothing stops it */
  releaseS: number;
  /** noise of the stroke: level against the tone, its time of 60 dB, where it lies */
  noise: { db: number; decayS: number; hz: number };
}

const MOST_MODES = 48;
/** Beating strings and an after-sound are heard of so many partials. */
const MOST_BEATING = 12;
/** What is quieter than this against the beginning of its note is not heard any more. */
const END_DB = -85;

interface Mode {
  hz: number;
  size: number;
  decayS: number;
}

function modesOf(
  instrument: Struck,
  note: Note,
  sampleRateHz: number,
  random: () => number,
): Mode[] {
  const { modes, stiffness, struckAt, tiltDb, decayS, halfHz, slow, detuneCents } = instrument;
  const fundamental = 440 * 2 ** ((note.key - 69) / 12);
  // Stiffness raises the first partial as well: what is tuned is what sounds.
  const base = modes === 'string' ? fundamental / Math.sqrt(1 + stiffness) : fundamental;
  const tilt = tiltDb[0] + (tiltDb[1] - tiltDb[0]) * note.force;
  const count = modes === 'string' ? MOST_MODES : modes.length;
  const found: Mode[] = [];
  for (let k = 1; k <= count; k++) {
    const ratio = modes === 'string' ? k * Math.sqrt(1 + stiffness * k * k) : (modes[k - 1] ?? k);
    const hz = base * ratio;
    if (hz > Math.min(HIGHEST_HZ, 0.45 * sampleRateHz)) break;
    const place = struckAt > 0 ? Math.abs(Math.sin(Math.PI * k * struckAt)) + 0.03 : 1;
    const db = tilt * Math.log2(ratio) + fallDb(hz);
    const size = place * 10 ** (db / 20) * (0.9 + 0.2 * random());
    const time = (decayS * (261 / Math.max(60, fundamental)) ** 0.4) / (1 + hz / halfHz);
    const beats = detuneCents > 0 && k <= MOST_BEATING;
    const strings = beats ? [-1, 1] : [0];
    const share = k <= MOST_BEATING ? slow.share : 0;
    for (const side of strings) {
      const at = hz * 2 ** ((side * detuneCents) / 2400);
      const part = size / strings.length;
      found.push({ hz: at, size: part * (1 - share), decayS: time });
      if (share > 0) found.push({ hz: at, size: part * share, decayS: time * slow.times });
    }
  }
  return found;
}

/** A mode as it is computed: each sample from the two before it. */
interface Strand {
  a: number;
  b: number;
  now: number;
  next: number;
  frames: number;
}

/** So many modes are added in one go: the tone is read and written once for all of them. */
const TOGETHER = 4;
const SILENT: Strand = { a: 0, b: 0, now: 0, next: 0, frames: 0 };

/** @param ahead samples that it begins before its stroke, as if it had sounded then */
function strandOf(
  { hz, size: atStroke, decayS }: Mode,
  total: number,
  atPhase: number,
  sampleRateHz: number,
  ahead = 0,
): Strand {
  const loss = Math.exp((-6.9078 / decayS) * (1 / sampleRateHz));
  const turn = (2 * Math.PI * hz) / sampleRateHz;
  const size = atStroke * loss ** -ahead;
  const phase = atPhase - ahead * turn;
  // How far a mode is above what is not heard any more beside the whole of its note.
  const above = 20 * Math.log10(atStroke / total) - END_DB;
  return {
    a: 2 * loss * Math.cos(turn),
    b: loss * loss,
    now: size * Math.sin(phase),
    next: size * loss * Math.sin(phase + turn),
    frames: Math.ceil((decayS * sampleRateHz * above) / 60) + ahead,
  };
}

function addStrands(
  [p, q = SILENT, r = SILENT, s = SILENT]: readonly Strand[],
  tone: Float32Array,
): void {
  if (!p) return;
  const frames = Math.min(tone.length, Math.max(p.frames, q.frames, r.frames, s.frames));
  let [p0, p1, q0, q1] = [p.now, p.next, q.now, q.next];
  let [r0, r1, s0, s1] = [r.now, r.next, s.now, s.next];
  const [pa, pb, qa, qb] = [p.a, p.b, q.a, q.b];
  const [ra, rb, sa, sb] = [r.a, r.b, s.a, s.b];
  for (let i = 0; i < frames; i++) {
    tone[i] = (tone[i] as number) + p0 + q0 + r0 + s0;
    const pn = pa * p1 - pb * p0;
    const qn = qa * q1 - qb * q0;
    const rn = ra * r1 - rb * r0;
    const sn = sa * s1 - sb * s0;
    p0 = p1;
    p1 = pn;
    q0 = q1;
    q1 = qn;
    r0 = r1;
    r1 = rn;
    s0 = s1;
    s1 = sn;
  }
}

/** The longest first, so that those which are added together end together. */
function addAll(strands: readonly Strand[], tone: Float32Array): void {
  const sorted = [...strands].sort((one, other) => other.frames - one.frames);
  for (let i = 0; i < sorted.length; i += TOGETHER) addStrands(sorted.slice(i, i + TOGETHER), tone);
}

/** Modes up to a tenth of the rate are computed at a quarter of it. */
const QUARTER = 4;
const LOW = 0.1;

/** All modes of a note, and when the last of them has gone. */
function strandsOf(
  modes: readonly Mode[],
  total: number,
  sampleRateHz: number,
  random: () => number,
): { low: Strand[]; high: Strand[]; frames: number } {
  const [low, high]: [Strand[], Strand[]] = [[], []];
  let frames = 0;
  for (const mode of modes) {
    const phase = 2 * Math.PI * random();
    const whole = strandOf(mode, total, phase, sampleRateHz);
    if (whole.frames <= 0) continue;
    frames = Math.max(frames, whole.frames);
    if (mode.hz > LOW * sampleRateHz) high.push(whole);
    else low.push(strandOf(mode, total, phase, sampleRateHz / QUARTER, BESIDE_QUARTER));
  }
  return { low, high, frames };
}

/**
 * Adds a struck or plucked note to a phrase, mode by mode.
 * @param out the phrase
 * @param gain of the note
 */
export function playStruck(
  instrument: Struck,
  note: Note,
  out: Float32Array,
  sampleRateHz: number,
  gain = 1,
): void {
  const random = seededRandom(note.seed);
  const from = Math.round(note.atS * sampleRateHz);
  const modes = modesOf(instrument, note, sampleRateHz, random);
  const total = Math.sqrt(modes.reduce((sum, { size }) => sum + size * size, 0) || 1);
  const level = (gain / total) * 10 ** ((14 * (note.force - 0.6)) / 20);
  const { low, high, frames: rings } = strandsOf(modes, total, sampleRateHz, random);
  // Nothing sounds once its longest mode and the noise of its stroke have gone.
  const noiseS = (instrument.noise.decayS * (instrument.noise.db - END_DB)) / 60;
  const sounds = Math.max(rings, Math.ceil(noiseS * sampleRateHz));
  const until = Math.min(
    out.length,
    from + sounds,
    from + Math.round((note.lengthS + instrument.releaseS) * sampleRateHz),
  );
  const released = from + note.lengthS * sampleRateHz;
  const { releaseS, attackS, noise } = instrument;
  const attack = Math.max(1, attackS * sampleRateHz);
  const length = Math.max(0, until - from);
  const slow = new Float32Array(Math.ceil(length / QUARTER) + 2 * BESIDE_QUARTER);
  addAll(low, slow);
  const tone = fourfold(slow, length);
  addAll(high, tone);
  const knock = 10 ** (noise.db / 20) * total;
  const fade = Math.exp(-6.9078 / noise.decayS / sampleRateHz);
  const pole = Math.exp((-Math.PI * noise.hz * 0.8) / sampleRateHz);
  const bend = 2 * pole * Math.cos((2 * Math.PI * noise.hz) / sampleRateHz);
  let [burst, one, two] = [knock, 0, 0];
  // Under a tone that goes on it may not end with a step.
  const gone = noiseS + (noise.decayS * 30) / 60;
  const knocked = Math.min(length, Math.ceil(gone * sampleRateHz));
  for (let i = 0; i < knocked; i++) {
    const band = (1 - pole) * 2 * (2 * random() - 1) + bend * one - pole * pole * two;
    two = one;
    one = band;
    tone[i] = (tone[i] as number) + burst * band;
    burst *= fade;
  }
  const risen = Math.min(length, Math.ceil(attack));
  for (let i = 0; i < risen; i++) tone[i] = ((tone[i] as number) * i) / attack;
  const lets = Number.isFinite(releaseS) ? Math.max(0, Math.ceil(released) - from) : length;
  for (let i = lets; i < length; i++) {
    const late = (from + i - released) / (releaseS * sampleRateHz);
    tone[i] = (tone[i] as number) * Math.max(0, 1 - late);
  }
  for (let i = 0; i < length; i++) {
    out[from + i] = (out[from + i] as number) + level * (tone[i] as number);
  }
}
