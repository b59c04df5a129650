import { mean } from 'd3-array';
import { capsulesInFrame } from '../../arrays/capsules';
import { stripsOf, usualPans } from '../../arrays/routing';
import { enabledArrays } from '../../session/lists';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import type { MicArray, Session } from '../../session/schema';
import { cosDeg, sinDeg } from '../../units/guard';
import { arrayName, type Fix, type Found, type Rule } from './finding';

/** An array that looks steeper than this up or down has no front on the plan. */
const LEVEL_DEG = 60;
/** Players closer than this on the plan are around the array, not before or behind it, m. */
const AROUND_M = 0.5;

/** Whether an array turns its back to the players that it is for, so that its left is their right. */
export function facesAway(session: Session, array: MicArray): boolean {
  if (Math.abs(array.tiltDeg) > LEVEL_DEG) return false;
  const players = playersOf(array, session.sources, contextOf(session).speed);
  const dx = (mean(players, ({ x }) => x) ?? array.x) - array.x;
  const dy = (mean(players, ({ y }) => y) ?? array.y) - array.y;
  if (Math.hypot(dx, dy) < AROUND_M) return false;
  return dx * sinDeg(array.aimDeg) + dy * cosDeg(array.aimDeg) < 0;
}

/** Which way the mix lays an array's own left and right: 1 as they are, −1 swapped, 0 neither. */
function layout({ technique, mix }: MicArray): number {
  if (technique.kind === 'mid-side') return technique.sidePositive === 'left' ? 1 : -1;
  const usual = usualPans(technique);
  const strips = stripsOf(technique, mix.capsules);
  return Math.sign(strips.reduce((sum, { pan }, i) => sum + pan * (usual[i] ?? 0), 0));
}

function swapped(array: MicArray): Fix {
  const { technique, mix } = array;
  if (technique.kind === 'mid-side') {
    const sidePositive = technique.sidePositive === 'left' ? ('right' as const) : ('left' as const);
    return {
      label: `Turn the lobe to the ${sidePositive}`,
      changes: [
        { kind: 'array', id: array.id, set: { technique: { ...technique, sidePositive } } },
      ],
    };
  }
  const capsules = stripsOf(technique, mix.capsules).map((strip) => ({
    ...strip,
    pan: strip.pan === 0 ? 0 : -strip.pan,
  }));
  return {
    label: 'Swap the pans',
    changes: [{ kind: 'array', id: array.id, set: { mix: { ...mix, capsules } } }],
  };
}

/** An array whose pans, lobe or direction turn the picture against the session's side. */
function contradictions(session: Session, array: MicArray): { away: boolean; found: Found } | null {
  const away = facesAway(session, array);
  const lies = layout(array) * (away ? -1 : 1);
  const wanted = session.settings.perspective;
  if (lies === 0 || lies > 0 === (wanted === 'audience')) return null;
  const whose = wanted === 'audience' ? 'the audience’s' : 'the performers’';
  const { technique } = array;
  const fix = swapped(array);
  const figures = { capsules: capsulesInFrame(technique).length };
  if (away) {
    const where = array.role === 'ambience' ? 'faces the hall' : 'turns its back to the players';
    const message = `${array.name} ${where}, so its left hears their right: swap its left and right.`;
    return { away, found: { severity: 'fault', message, figures, fix } };
  }
  // From the audience's side a turned lobe is found by the images themselves.
  if (technique.kind === 'mid-side' && wanted === 'audience') return null;
  const message =
    technique.kind === 'mid-side'
      ? `${array.name}: the positive lobe of the side faces ${technique.sidePositive}, so the picture is not from ${whose} side.`
      : `${array.name}: the left capsule is panned ${layout(array) > 0 ? 'left' : 'right'} of the right one, so the picture is not from ${whose} side.`;
  return { away, found: { severity: 'fault', message, figures, fix } };
}

/** Arrays whose picture is from the wrong side; several for one reason are one finding. */
function onlyIf(session: Session, wantedAway: boolean): Found[] {
  return enabledArrays(session).flatMap((array): Found[] | Found => {
    const one = contradictions(session, array);
    if (!one || one.away !== wantedAway) return [];
    const whose =
      session.settings.perspective === 'audience' ? 'the audience’s' : 'the performers’';
    return {
      ...one.found,
      arrays: [array],
      cause: {
        key: 'all',
        weight: 0,
        words: (all) =>
          `${all.flatMap(({ arrays }) => (arrays ?? []).map(({ id }) => arrayName(session, id))).join(', ')}: the picture is not from ${whose} side. Swap left and right, or change the session’s perspective.`,
        fixLabel: 'Swap them all',
      },
    };
  });
}

const REASON =
  'One perspective for the whole session: every array, and every side lobe, keeps to its left and right.';

export const PICTURE_SIDE_RULES: readonly Rule[] = [
  {
    code: 'pan-contradicts',
    evidence: 'channels',
    basis: 'rule',
    severities: ['fault'],
    reason: REASON,
    of: 'session',
    check: (session) => onlyIf(session, false),
  },
  {
    code: 'faces-away',
    evidence: 'channels',
    basis: 'rule',
    severities: ['fault'],
    reason: REASON,
    of: 'session',
    check: (session) => onlyIf(session, true),
  },
];
