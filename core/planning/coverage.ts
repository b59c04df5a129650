import { distance } from '../units/vector';
import { mainArrays } from '../session/lists';
import { seenWidth } from '../ensembles/extent';
import type { MicArray, Session, Source } from '../session/schema';
import { formatNumber, lengthText } from '../units/format';
import { toDeg } from '../units/guard';

/** One microphone or a pair for a source, and why. */
export interface CoverageAdvice {
  sourceId: string;
  advice: 'mono' | 'stereo';
  reason: string;
  /** the user's own decision, which stands */
  override: 'mono' | 'stereo' | null;
}

const WIDE_M = 0.9;
const WIDE_DEG = 20;

/** In dense music it takes twice the width, in sparse music half of it. */
const DENSITY = { sparse: 0.5, dense: 2 } as const;

/** Seen narrower than this it is a point, m. */
const POINT_M = 0.05;

/** How wide a source is from the main array, m, and under what angle; without one from 2 m before it. */
function widthSeen(source: Source, main: MicArray | undefined): { widthM: number; deg: number } {
  const widthM = main ? seenWidth(source, main).widthM : source.widthM;
  const distanceM = main ? distance(source, main) : 2;
  return { widthM, deg: 2 * toDeg(Math.atan2(widthM / 2, Math.max(distanceM, 0.1))) };
}

/**
 * Whether a source is worth two microphones of its own: one with a width that is heard, or alone
 * in the picture; the denser the music, the wider it must be. A practice, not physics.
 */
export function coverageAdvice(session: Session): CoverageAdvice[] {
  const [main] = mainArrays(session);
  const { density } = session.brief.intent;
  const factor = density ? DENSITY[density] : 1;
  return session.sources.map((source) => {
    const { widthM, deg } = widthSeen(source, main);
    const seen = `${lengthText(widthM, session.settings.units)} wide, ${formatNumber(deg, 0)}° at ${main?.name ?? '2 m'}`;
    const result = (advice: 'mono' | 'stereo', reason: string): CoverageAdvice => ({
      sourceId: source.id,
      advice,
      reason,
      override: source.coverage,
    });
    if (widthM >= factor * WIDE_M || deg >= factor * WIDE_DEG) {
      return result(
        'stereo',
        density === 'sparse' && widthM < WIDE_M && deg < WIDE_DEG
          ? `${seen}: in sparse music its width is heard.`
          : `${seen}: its width is part of the sound.`,
      );
    }
    if (session.sources.length === 1) {
      return result('stereo', 'Alone in the picture: a pair gives it its room.');
    }
    if (density === 'dense' && (widthM >= WIDE_M || deg >= WIDE_DEG)) {
      return result('mono', `${seen}: in dense music a single microphone keeps it in its place.`);
    }
    return result(
      'mono',
      widthM >= POINT_M
        ? `${seen}: small in the picture, a single microphone panned to its place serves it.`
        : 'A point in the picture: a single microphone panned to its place serves it.',
    );
  });
}
