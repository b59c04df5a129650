import { sourceEdges } from '../../ensembles/extent';
import type { Session, Source } from '../../session/schema';
import { cosDeg, sinDeg } from '../../units/guard';
import type { Vec3 } from '../../units/vector';
import { bandShares } from '../players/band-shares';
import { playerFor, type PlayerName } from '../players/kinds';
import { phraseByKeys, phraseOf } from '../players/phrase';
import type { PhraseName } from '../players/score';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import type { RenderOptions } from './options';

/** A source this wide sounds from its two ends and its middle, one performance in three. */
const SPREAD_M = 0.15;
const SPREAD_PLACES = 3;
/** A source this wide sounds from several places, one every so many metres. */
const WIDE_M = 0.8;
const EVERY_M = 0.7;
const MOST_PLACES = 5;
/** Instruments whose notes lie side by side: the low ones at the player's left. */
const KEYED: ReadonlySet<PlayerName> = new Set(['piano', 'harpsichord', 'harp', 'organ pipe']);

/**
 * A number from a text, the same everywhere (FNV-1a).
 * @param seed another stream of them, 0 … 2^32
 */
function seedFrom(text: string, seed: number): number {
  let hash = (2_166_136_261 ^ seed) >>> 0;
  for (const character of text) {
    hash = Math.imul(hash ^ (character.codePointAt(0) ?? 0), 16_777_619) >>> 0;
  }
  return hash;
}

function placesOf(source: Source, count: number): Vec3[] {
  const { x, y, z, facingDeg, widthM } = source;
  const [dx, dy] = [cosDeg(facingDeg) * widthM, -sinDeg(facingDeg) * widthM];
  return Array.from({ length: count }, (_, i) => {
    const share = count === 1 ? 0 : (i + 0.5) / count - 0.5;
    return { x: x + share * dx, y: y + share * dy, z };
  });
}

/** What a phrase depends on: the same is made once. */
export type Phrases = Map<string, Float32Array>;

/** More players of a kind than this share their performances: nobody hears it among so many. */
const MOST_ALONE = 16;

const soundOf = (source: Source, sound: PlayerName | null): PlayerName =>
  sound ?? playerFor(source.kind || source.name);

/** The how-manieth of its kind every player is, whoever else is rendered. */
function ranksOf(sources: readonly Source[], sound: PlayerName | null): Map<string, number> {
  const counts = new Map<PlayerName, number>();
  return new Map(
    sources.map((source) => {
      const name = soundOf(source, sound);
      const rank = counts.get(name) ?? 0;
      counts.set(name, rank + 1);
      return [source.id, rank % MOST_ALONE];
    }),
  );
}

/** What one place plays: all that its phrase depends on. */
export interface PhraseSpec {
  name: PlayerName;
  phrase: PhraseName;
  seed: number;
  sampleRateHz: number;
  /** of an instrument whose notes lie side by side: which part of how many, from the low end */
  part: readonly [index: number, count: number] | null;
  /** of an instrument of some width: which share of its narrow bands, of how many; absent: all of it */
  bands?: readonly [index: number, count: number];
}

/** Under which a phrase is known. */
export const phraseKey = ({ name, phrase, seed, sampleRateHz, part, bands }: PhraseSpec): string =>
  `${name} ${phrase} ${seed} ${sampleRateHz} ${part?.join('/') ?? ''}${bands ? ` bands ${bands.join('/')}` : ''}`;

/** A phrase, made once for all that play the same. */
export function playedPhrase(
  spec: PhraseSpec,
  phrases: Phrases,
  engine: SpectraEngine = plainEngine,
): Float32Array {
  const key = phraseKey(spec);
  const known = phrases.get(key);
  if (known) return known;
  const { name, phrase, seed, sampleRateHz, part, bands } = spec;
  if (bands) {
    const { bands: _bands, ...whole } = spec;
    const [index, count] = bands;
    // Another order of the places for another performance, so that no two players lean alike.
    const one = playedPhrase(whole, phrases, engine);
    const shares = bandShares(one, sampleRateHz, count, seed % count, engine);
    shares.forEach((share, i) => phrases.set(phraseKey({ ...whole, bands: [i, count] }), share));
    return shares[index] ?? new Float32Array(0);
  }
  if (part) {
    const [index, count] = part;
    const parts = phraseByKeys(name, phrase, seed, sampleRateHz, count);
    parts.forEach((one, i) => phrases.set(phraseKey({ ...spec, part: [i, count] }), one));
    return parts[index] ?? new Float32Array(0);
  }
  const made = phraseOf(name, phrase, seed, sampleRateHz);
  phrases.set(key, made);
  return made;
}

/** A place that sound comes from, and what it plays. */
export interface SoundingPlace {
  sourceId: string;
  position: Vec3;
  /** at 1 m, dB SPL */
  levelDb: number;
  q: number;
  plays: PhraseSpec;
}

function placesAndParts(
  source: Source,
  rank: number,
  { phrase, seed, sampleRateHz, sound }: RenderOptions,
): SoundingPlace[] {
  const name = soundOf(source, sound);
  const wide = source.widthM >= WIDE_M;
  const count = wide ? Math.min(MOST_PLACES, Math.max(2, Math.round(source.widthM / EVERY_M))) : 1;
  const own = seedFrom(`${name} ${rank}`, seed);
  if (!wide && source.widthM > SPREAD_M) {
    const [left, right] = sourceEdges(source);
    return [left, source, right].map(({ x, y, z }, i) => ({
      sourceId: source.id,
      position: { x, y, z },
      levelDb: source.levelDb - 10 * Math.log10(SPREAD_PLACES),
      q: source.q,
      plays: { name, phrase, seed: own, sampleRateHz, part: null, bands: [i, SPREAD_PLACES] },
    }));
  }
  // Side by side by note, or several players each with a performance of its own.
  const keyed = KEYED.has(name) && count > 1;
  return placesOf(source, count).map((position, i) => ({
    sourceId: source.id,
    position,
    levelDb: source.levelDb - 10 * Math.log10(count),
    q: source.q,
    plays: {
      name,
      phrase,
      seed: keyed ? own : own + i,
      sampleRateHz,
      part: keyed ? [i, count] : null,
    },
  }));
}

/**
 * Where the sound of a session's players comes from, and what is played there.
 * @param playerIds of them; all where it is null
 */
export function soundingPlaces(
  session: Pick<Session, 'sources'>,
  options: RenderOptions,
): SoundingPlace[] {
  const ranks = ranksOf(session.sources, options.sound);
  return session.sources
    .filter(({ id }) => options.playerIds === null || options.playerIds.includes(id))
    .flatMap((source) => placesAndParts(source, ranks.get(source.id) ?? 0, options));
}
