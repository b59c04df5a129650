import { stripsOf } from '../../arrays/routing';
import { enabledArrays } from '../../session/lists';
import type { MicArray, Session, Source } from '../../session/schema';
import { planDistance } from '../../units/vector';
import type { Found, Rule } from './finding';

const DRUMS = /drum|tom\b|timpani|conga|bongo|djembe|taiko/i;
/** A microphone this near on the plan is for the drum. */
const AT_IT_M = 1;
/** Tilted at least so far, it looks up at one head or down at the other, degrees. */
const LOOKS_DEG = 25;

const isSingle = ({ technique }: MicArray): boolean => technique.kind === 'single';
const polarityOf = (array: MicArray): 1 | -1 =>
  stripsOf(array.technique, array.mix.capsules)[0]?.polarity ?? 1;

/** Pairs of microphones that hear the two heads of a drum with the same polarity. */
function alike(session: Session, drum: Source): [over: MicArray, under: MicArray][] {
  const near = enabledArrays(session).filter(
    (array) => isSingle(array) && array.role === 'spot' && planDistance(array, drum) <= AT_IT_M,
  );
  const under = near.filter(({ tiltDeg, z }) => tiltDeg >= LOOKS_DEG && z < drum.z);
  const over = near.filter(({ tiltDeg, z }) => tiltDeg <= -LOOKS_DEG && z > drum.z);
  return under.flatMap((low) => {
    const [high] = [...over].sort((a, b) => planDistance(a, low) - planDistance(b, low));
    return high && polarityOf(high) === polarityOf(low) ? [[high, low]] : [];
  });
}

function drumHeads(session: Session): Found[] {
  return session.sources
    .filter(({ kind, name }) => DRUMS.test(`${kind} ${name}`))
    .flatMap((drum) =>
      alike(session, drum).map(([over, under]): Found => ({
        severity: 'note',
        message: `${under.name} looks up at ${drum.name} and ${over.name} down at it, both with the same polarity: a stroke moves one head away from its microphone and the other towards it.`,
        todo: `Turn the polarity of ${under.name} over and keep what sounds fuller; it is not computed, a head is taken for a point here.`,
        arrays: [under, over],
        sources: [drum],
        subject: `${drum.id} ${under.id}`,
        figures: {},
      })),
    );
}

export const DRUM_RULES: readonly Rule[] = [
  {
    code: 'drum-heads',
    evidence: 'channels',
    basis: 'rule',
    severities: ['note'],
    reason:
      'The two heads of a drum move the same way, so one microphone is pushed and the other pulled.',
    of: 'session',
    check: drumHeads,
  },
];
