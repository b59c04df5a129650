import { enabledArrays, isKnown } from '../../session/lists';
import type { MicArray, Session } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { isNotDirect, screensOf, shadowedAt, type Shadowed } from '../shadows';
import { namesOf, sourcesOf, type Found, type Rule } from './finding';
import { back, closer, playersFor, raised, sideways } from './levers';
import { seatAbout } from './seat-levers';

/** A shadow of less in every octave is not told, dB. */
const LEAST_DB = 3;

const inList = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** "by 4 dB at 125 Hz, 12 dB at 1 kHz, 21 dB at 8 kHz" */
function lossWords({ octaves }: Shadowed): string {
  if (!octaves) return 'with no way round one edge or two';
  const at = (hz: number): string =>
    `${formatNumber(octaves.find((each) => each.hz === hz)?.db ?? 0, 0)} dB at ${hz < 1000 ? `${hz} Hz` : `${hz / 1000} kHz`}`;
  return `the direct sound loses ${at(125)}, ${at(1000)} and ${at(8000)}`;
}

const meanLoss = ({ octaves }: Shadowed): number =>
  octaves ? octaves.reduce((sum, { db }) => sum + db, 0) / octaves.length : 40;

function told(session: Session, array: MicArray, shadowed: Shadowed): Found {
  const { source, by, capsule, hidden, of } = shadowed;
  const where = hidden < of ? `${array.name} (${capsule})` : array.name;
  const notDirect = isNotDirect(shadowed);
  const heard = notDirect ? 'is not heard directly' : 'is partly hidden';
  const loss = meanLoss(shadowed);
  return {
    severity: notDirect ? 'caution' : 'note',
    message: `${source.name} ${heard} at ${where}: ${inList(by)} ${by.length === 1 ? 'stands' : 'stand'} between; ${lossWords(shadowed)} (estimate).`,
    sources: [source],
    arrays: [array],
    figures: {
      meanLossDb: shadowed.octaves ? loss : null,
      loss125Db: shadowed.octaves?.[0]?.db ?? null,
      loss1kDb: shadowed.octaves?.[3]?.db ?? null,
      loss8kDb: shadowed.octaves?.[6]?.db ?? null,
    },
    size: loss,
    levers: () => [
      raised(session, array),
      sideways(session, array, 1),
      sideways(session, array, -1),
      closer(session, array),
      back(session, array),
      ...(source.widthM < 2 ? [seatAbout(session, source)] : []),
    ],
    cause: {
      key: `${array.id} ${by.join()}`,
      weight: loss,
      words: (all) =>
        `${inList(by)} ${by.length === 1 ? 'stands' : 'stand'} between ${array.name} and ${all.length} players: ${namesOf(session, sourcesOf(all))}. Of ${source.name} ${lossWords(shadowed)} (estimate).`.replace(
          /^./,
          (letter) => letter.toUpperCase(),
        ),
    },
  };
}

/** Layers that are for the room, or for its sides, need see nobody. */
const SEEING: ReadonlySet<MicArray['role']> = new Set(['main', 'outrigger', 'spot', 'overhead']);

export const SHADOW_RULES: readonly Rule[] = [
  {
    code: 'shadowed',
    evidence: 'shadow',
    basis: 'physics',
    severities: ['caution', 'note'],
    reason:
      'Sound goes round what stands between and loses its high octaves (Maekawa 1968, round every side; an estimate).',
    of: 'session',
    check: (session) => {
      const screens = screensOf(session);
      if (screens.length === 0) return [];
      return enabledArrays(session)
        .filter((array) => isKnown(array) && SEEING.has(array.role))
        .flatMap((array) =>
          shadowedAt(session, array, playersFor(session, array), screens)
            .filter(({ octaves }) => octaves === null || octaves.some(({ db }) => db >= LEAST_DB))
            .map((each) => told(session, array, each)),
        );
    },
  },
];
