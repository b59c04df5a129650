import { coherentSumDb, monoDip, sumBelow } from '../../acoustics/coherent-mono';
import { sourceEdges } from '../../ensembles/extent';
import { monoWaves, nearArrivals } from '../../localisation/cues';
import { readyArray } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber } from '../../units/format';
import type { Vec3 } from '../../units/vector';
import { MONO_LOSS_DB } from '../criteria';
import { heardArrays, prepareMix } from '../mix';
import { namesOf, type ArrayView, type Found, type Rule } from './finding';

/** A comb that begins below this takes the body of a sound, Hz. */
const BODY_HZ = 2000;
const DEEP_COMB_DB = 12;

/** A source's middle, and both ends of a wide one. */
const pointsOf = (source: Source): readonly Vec3[] =>
  source.widthM > 0 ? [source, ...sourceEdges(source)] : [source];

/** What an array can do about it: nothing is made smaller that is 0 already. */
function narrowerWays({ technique, mix }: MicArray): string {
  if (new Set(mix.capsules.map(({ polarity }) => polarity)).size > 1) {
    return 'Set its polarities alike';
  }
  if (technique.kind === 'mid-side') return 'Take less side';
  if (technique.kind !== 'pair') return 'Bring its microphones closer together';
  const ways = [
    ...(technique.spacingM > 0 ? ['spacing'] : []),
    ...(technique.includedAngleDeg > 0 ? ['angle'] : []),
  ];
  return `Take a smaller ${ways.join(' or ')}`;
}

/** Weaker than this nothing is left, dB. */
const GONE_DB = -40;

const lossText = (sumDb: number): string =>
  sumDb < GONE_DB ? 'all but cancelled' : `up to ${formatNumber(Math.abs(sumDb), 1)} dB weaker`;

/** Its weakest mono sum over middle and ends, dB; null at a capsule. */
function weakestAt({ session, array }: ArrayView, source: Source, centreDb: number): number {
  if (source.widthM === 0) return centreDb;
  const ready = readyArray(array);
  const { speed } = contextOf(session);
  return Math.min(
    centreDb,
    ...sourceEdges(source, array).flatMap((edge) => {
      const arrivals = nearArrivals(ready, edge, speed);
      return arrivals ? coherentSumDb(monoWaves(ready, arrivals)) : [];
    }),
  );
}

function arrayLoss(view: ArrayView): Found[] {
  const { session, array, figures } = view;
  const weight = session.brief.intent.mono;
  if (weight === 'may-be-lost' || array.monoLossAccepted) return [];
  const byId = new Map(session.sources.map((source) => [source.id, source]));
  const lost = figures.own.flatMap((of) => {
    const source = byId.get(of.id);
    const sumDb = source && of.mono ? weakestAt(view, source, of.mono.sumDb) : 0;
    return sumDb < MONO_LOSS_DB ? [{ id: of.id, sumDb }] : [];
  });
  if (lost.length === 0) return [];
  const worst = Math.min(...lost.map(({ sumDb }) => sumDb));
  return [
    {
      severity: weight === 'must-survive' ? 'fault' : 'caution',
      message: `${namesOf(session, lost)}: ${lossText(worst)} in the mono sum of ${array.name}. ${narrowerWays(array)}, or accept the loss for this array.`,
      sources: lost,
      figures: { worstSumDb: worst },
    },
  ];
}

function comb({ session, array, figures }: ArrayView): Found[] {
  if (session.brief.intent.mono !== 'must-survive' || array.monoLossAccepted) return [];
  const combed = figures.own.filter(
    ({ mono }) =>
      mono !== null && mono.combDb > DEEP_COMB_DB && (mono.firstNotchHz ?? 1e9) < BODY_HZ,
  );
  if (combed.length === 0) return [];
  const lowest = Math.min(...combed.map(({ mono }) => mono?.firstNotchHz ?? Infinity));
  return [
    {
      severity: 'caution',
      message: `${namesOf(session, combed)}: combed in mono from ${formatNumber(lowest, 0)} Hz at ${array.name}. ${array.role === 'outrigger' ? 'Keep it well below the main array, or accept the loss for it.' : 'A coincident array has no comb.'}`,
      sources: combed,
      figures: { firstNotchHz: lowest },
    },
  ];
}

/** The mono sum of everything together, at the middle and both ends of each player. */
function wholeMix(session: Session): Found[] {
  const weight = session.brief.intent.mono;
  if (weight === 'may-be-lost' || heardArrays(session).length < 2) return [];
  const mix = prepareMix(session);
  if (!mix) return [];
  const { speed } = contextOf(session);
  const lost: { id: string; sumDb: number }[] = [];
  const combed: { id: string; hz: number }[] = [];
  for (const source of session.sources) {
    const all = pointsOf(source).flatMap((point) => {
      const arrivals = nearArrivals(mix, point, speed);
      return arrivals ? [monoWaves(mix, arrivals)] : [];
    });
    const sums = all.flatMap((waves) => sumBelow(waves, MONO_LOSS_DB) ?? []);
    if (sums.length > 0) lost.push({ id: source.id, sumDb: Math.min(...sums) });
    else if (weight === 'must-survive') {
      const nulls = all.flatMap((waves) => monoDip(waves, BODY_HZ).firstNullHz ?? []);
      if (nulls.length > 0) combed.push({ id: source.id, hz: Math.min(...nulls) });
    }
  }
  const found: Found[] = [];
  if (lost.length > 0) {
    const sumDb = Math.min(...lost.map((one) => one.sumDb));
    found.push({
      severity: weight === 'must-survive' ? 'fault' : 'caution',
      message: `${namesOf(session, lost)}: ${lossText(sumDb)} in the mono sum of the whole mix. Look for a polarity or a delay that sets two microphones against each other.`,
      sources: lost,
      figures: { worstSumDb: sumDb },
    });
  }
  if (combed.length > 0) {
    const firstNullHz = Math.min(...combed.map(({ hz }) => hz));
    found.push({
      severity: 'caution',
      message: `${namesOf(session, combed)}: the mono sum of the whole mix comes to nothing from ${formatNumber(firstNullHz, 0)} Hz on. Let one array lead: lower the others, or delay them well clear of it.`,
      sources: combed,
      figures: { firstNullHz },
    });
  }
  return found;
}

const REASON =
  'The mono sum adds all channels with their time differences: |Σ a·e^(−jωt)|² against their power.';

export const MONO_RULES: readonly Rule[] = [
  {
    code: 'mono-loss',
    evidence: 'mono',
    basis: 'physics',
    severities: ['fault', 'caution'],
    reason: REASON,
    of: 'array',
    // Who is behind a microphone for the hall is lost in its sum, and not missed.
    roles: ['main', 'outrigger', 'spot', 'overhead'],
    check: arrayLoss,
  },
  {
    code: 'mono-comb',
    evidence: 'mono',
    basis: 'physics',
    severities: ['caution'],
    reason: 'Equal levels with a time difference notch at 1/(2τ) when summed.',
    of: 'array',
    roles: ['main', 'outrigger', 'spot', 'overhead'],
    check: comb,
  },
  {
    code: 'mono-of-mix',
    evidence: 'mono',
    basis: 'physics',
    severities: ['fault', 'caution'],
    reason: REASON,
    of: 'session',
    check: wholeMix,
  },
];
