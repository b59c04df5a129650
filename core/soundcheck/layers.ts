import { mean } from 'd3-array';
import { interchannelCorrelation } from '../analysis/correlation';
import { LOW_HZ } from '../analysis/criteria';
import { mixFigures } from '../analysis/mix';
import { directToReverberantDb } from '../acoustics/reverberant-field';
import { coherentMono } from '../acoustics/coherent-mono';
import { monoWaves, nearArrivals } from '../localisation/cues';
import { prepareMix } from '../analysis/mix';
import { contextOf } from '../prepare/context';
import { enabledArrays } from '../session/lists';
import type { MicArray, Session } from '../session/schema';
import { powerDb } from '../units/guard';

/** What each layer of a blend does in the whole. */
export interface LayerFigures {
  arrayId: string;
  name: string;
  role: MicArray['role'];
  /** of the direct sound of everybody, in the mix, percent by power */
  sharePct: number | null;
  /** how much of the players' places it makes, percent on average */
  pullPct: number | null;
  /** of its own two channels in the room at 125 Hz; null for one */
  lowCorrelation: number | null;
  /** by itself: direct sound against the room, mean of the players, dB */
  directDb: number | null;
  /** by itself: what mono leaves of the worst player, dB */
  monoDb: number | null;
}

/** Direct power of everybody in one array at its fader; 0 where it is not heard. */
function powerOf(session: Session, array: MicArray): number {
  const mix = array.mix.mute ? null : prepareMix({ arrays: [array] });
  if (!mix) return 0;
  const { speed } = contextOf(session);
  return session.sources.reduce((sum, source) => {
    const arrivals = nearArrivals(mix, source, speed);
    const power =
      arrivals?.reduce((all, { gain }, i) => all + (mix.weights[i] ?? 0) * gain * gain, 0) ?? 0;
    return sum + power * 10 ** (source.levelDb / 10);
  }, 0);
}

/** Every layer in use, in the order of the plan; a muted one has a share of nothing. */
export function layerFigures(session: Session): LayerFigures[] {
  const arrays = enabledArrays(session);
  const powers = arrays.map((array) => powerOf(session, array));
  const whole = powers.reduce((sum, power) => sum + power, 0);
  const { speed, criticalDistanceM } = contextOf(session);
  const pulls = session.sources.map((source) => mixFigures(session, source)?.pulls ?? []);
  return arrays.map((array, i) => {
    const own = prepareMix({ arrays: [{ ...array, mix: { ...array.mix, mute: false } }] });
    const heard = session.sources.flatMap((source) => {
      const arrivals = own && nearArrivals(own, source, speed);
      return arrivals && own.weights.some((weight) => weight > 0) ? [{ source, arrivals }] : [];
    });
    const directs =
      criticalDistanceM === null || !own
        ? []
        : heard.map(({ source, arrivals }) =>
            directToReverberantDb(arrivals, own.weights, own.diffuse, source.q, criticalDistanceM),
          );
    const monos = own
      ? heard.map(({ arrivals }) => coherentMono(monoWaves(own, arrivals)).sumDb)
      : [];
    return {
      arrayId: array.id,
      name: array.name,
      role: array.role,
      sharePct: whole > 0 ? (100 * (powers[i] ?? 0)) / whole : null,
      pullPct:
        mean(
          pulls.flatMap((list) => list.find(({ arrayId }) => arrayId === array.id)?.pct ?? []),
        ) ?? null,
      lowCorrelation: own ? (interchannelCorrelation(own, LOW_HZ, speed)?.real ?? null) : null,
      directDb: mean(directs) ?? null,
      monoDb: monos.length > 0 ? Math.min(...monos) : null,
    };
  });
}

/** Level of a share against the whole, dB; null for nothing. */
export const shareDb = (sharePct: number | null): number | null =>
  sharePct === null || sharePct <= 0 ? null : powerDb(sharePct / 100);
