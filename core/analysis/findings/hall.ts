import type { Shoebox } from '../../acoustics/reflections';
import { enabledArrays } from '../../session/lists';
import type { Session } from '../../session/schema';
import { lengthText } from '../../units/format';
import { broughtIn, shoeboxOf } from '../room';
import type { Change, Found, Rule } from './finding';

interface Placed {
  id: string;
  name: string;
  x: number;
  y: number;
  z: number;
}

/** How far a point is beyond the hall, m, and where; 0 inside. */
function beyond({ min, max }: Shoebox, at: Placed): { overM: number; where: string } {
  const over: [string, number][] = [
    ['left wall', min.x - at.x],
    ['right wall', at.x - max.x],
    ['wall behind the audience', min.y - at.y],
    ['wall behind the stage', at.y - max.y],
    ['floor', min.z - at.z],
    ['ceiling', at.z - max.z],
  ];
  const [where, overM] = over.reduce((worst, entry) => (entry[1] > worst[1] ? entry : worst));
  return { overM: Math.max(0, overM), where };
}

function outside(session: Session, kind: 'source' | 'array', list: readonly Placed[]): Found[] {
  const room = shoeboxOf(session);
  if (!room) return [];
  const { units } = session.settings;
  return list.flatMap((at): Found[] | Found => {
    const { overM, where } = beyond(room, at);
    if (overM < 0.005) return [];
    const far = lengthText(overM, units);
    const change: Change = { kind, id: at.id, set: broughtIn(session, at) };
    return {
      severity: 'fault',
      message: `${at.name} is ${far} ${where === 'ceiling' ? 'above' : where === 'floor' ? 'below' : 'beyond'} the ${where}.`,
      sources: kind === 'source' ? [at] : [],
      arrays: kind === 'array' ? [at] : [],
      figures: { beyondM: overM },
      size: overM,
      todo: 'Or correct the hall, or where its datum is.',
      levers: () => [[{ label: `Bring ${at.name} inside`, changes: [change] }]],
      cause: {
        key: kind,
        weight: overM,
        words: (all) =>
          `${all.length} ${kind === 'source' ? 'players' : 'arrays'} are outside of the hall, ${at.name} by ${far}. Is the datum where the hall has it?`,
        fixLabel: 'Bring them all inside',
      },
    };
  });
}

/** Stage and tape points that the hall has no room for. */
function fixtures(session: Session): Found[] {
  const room = shoeboxOf(session);
  if (!room) return [];
  const { stage, datumPoints } = session.venue;
  const { units } = session.settings;
  const found: Found[] = [];
  const half = stage.widthM / 2;
  const overs = [room.min.x + half, half - room.max.x, room.min.y, stage.depthM - room.max.y];
  const overM = Math.max(...overs.map((over) => (over > 0 ? over : 0)));
  if (overM >= 0.005) {
    found.push({
      severity: 'fault',
      message: `The stage reaches ${lengthText(overM, units)} beyond the walls.`,
      subject: 'stage',
      todo: 'Correct its size, the hall’s, or where the datum is.',
      figures: { beyondM: overM },
    });
  }
  const out = datumPoints.filter((point) => beyond(room, point).overM >= 0.005);
  if (out.length > 0) {
    found.push({
      severity: 'fault',
      message: `Tape point${out.length > 1 ? 's' : ''} ${out.map(({ name }) => name).join(', ')} beyond the walls: no tape can be held there.`,
      subject: 'tapes',
      todo: 'Set them on something that is in the hall.',
      figures: { beyondM: Math.max(...out.map((point) => beyond(room, point).overM)) },
    });
  }
  return found;
}

export const HALL_RULES: readonly Rule[] = [
  {
    code: 'outside-hall',
    evidence: 'floor',
    basis: 'rule',
    severities: ['fault'],
    reason: 'The hall is a box of its width, depth and height, measured from the datum.',
    of: 'session',
    check: (session) => [
      ...outside(session, 'source', session.sources),
      ...outside(session, 'array', enabledArrays(session)),
      ...fixtures(session),
    ],
  },
];
