import { ceilingAt, isInFaces, isWithin, type FacedRoom } from '../../acoustics/faced-room';
import type { Room } from '../../acoustics/reflections';
import { enabledArrays } from '../../session/lists';
import type { Session } from '../../session/schema';
import { distanceToLine, distanceToOutline, insidePolygon } from '../../units/polygon';
import { dot } from '../../units/vector';
import { lengthText } from '../../units/format';
import { roomOf, surfaceWords } from '../../hall';
import { broughtIn } from '../room';
import type { Change, Found, Rule } from './finding';

interface Placed {
  id: string;
  name: string;
  x: number;
  y: number;
  z: number;
}

/** How far a point is beyond the hall, m, and where; 0 inside. */
function beyond(room: Room, at: Placed): { overM: number; where: string } {
  if ('faces' in room) return beyondFaces(room, at);
  const { min, max } = room;
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

/** The same of a hall of faces. What is in the stage, in seats or in a balcony is out of the hall as well. */
function beyondFaces(room: FacedRoom, at: Placed): { overM: number; where: string } {
  if (isInFaces(room, at)) return { overM: 0, where: '' };
  if (!insidePolygon(at, room.outline)) {
    const walls = room.outline.map((a, i) => {
      const b = room.outline[(i + 1) % room.outline.length] ?? a;
      return { overM: distanceToLine(at, a, b), face: room.faces[i] };
    });
    const { overM, face } = walls.reduce((best, each) => (each.overM < best.overM ? each : best));
    return { overM, where: face ? surfaceWords(room, face.id) : 'wall' };
  }
  if (at.z < 0) return { overM: -at.z, where: 'floor' };
  const top = ceilingAt(room, at) ?? room.max.z;
  if (at.z > top) return { overM: at.z - top, where: 'ceiling' };
  const solid = room.solids.find((each) => isWithin(each, at));
  if (!solid) return { overM: 0, where: '' };
  const depths = solid.planes.map(({ normal, offset }) => offset - dot(normal, at));
  return { overM: Math.min(...depths), where: solid.name };
}

const inSolid = (room: Room, at: Placed): boolean =>
  'faces' in room &&
  insidePolygon(at, room.outline) &&
  room.solids.some((each) => isWithin(each, at));

/** "0.4 m above the ceiling" */
function outsideWords(far: string, where: string, inSolid: boolean): string {
  if (inSolid) return `${far} inside the ${where}`;
  const how = where === 'ceiling' ? 'above' : where === 'floor' ? 'below' : 'beyond';
  return `${far} ${how} ${/^wall \d/.test(where) ? '' : 'the '}${where}`;
}

function outside(session: Session, kind: 'source' | 'array', list: readonly Placed[]): Found[] {
  const room = roomOf(session);
  if (!room) return [];
  const { units } = session.settings;
  return list.flatMap((at): Found[] | Found => {
    const { overM, where } = beyond(room, at);
    if (overM < 0.005) return [];
    const far = lengthText(overM, units);
    const change: Change = { kind, id: at.id, set: broughtIn(session, at) };
    return {
      severity: 'fault',
      message: `${at.name} is ${outsideWords(far, where, inSolid(room, at))}.`,
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

/** How far the stage's worst corner is beyond the walls, m. */
function stageBeyond(room: Room, stage: Session['venue']['stage']): number {
  const half = stage.widthM / 2;
  if (!('faces' in room)) {
    const overs = [room.min.x + half, half - room.max.x, room.min.y, stage.depthM - room.max.y];
    return Math.max(...overs.map((over) => (over > 0 ? over : 0)));
  }
  const corners = [
    { x: -half, y: 0 },
    { x: half, y: 0 },
    { x: half, y: stage.depthM },
    { x: -half, y: stage.depthM },
  ];
  const overs = corners.map((corner) =>
    insidePolygon(corner, room.outline) ? 0 : distanceToOutline(corner, room.outline),
  );
  return Math.max(...overs);
}

/** Stage and tape points that the hall has no room for. */
function fixtures(session: Session): Found[] {
  const room = roomOf(session);
  if (!room) return [];
  const { stage, datumPoints } = session.venue;
  const { units } = session.settings;
  const found: Found[] = [];
  const overM = stageBeyond(room, stage);
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
    reason: 'The hall is what its walls, floor and ceiling enclose, measured from the datum.',
    of: 'session',
    check: (session) => [
      ...outside(session, 'source', session.sources),
      ...outside(session, 'array', enabledArrays(session)),
      ...fixtures(session),
    ],
  },
];
