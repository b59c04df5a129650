import { coherentSumDb, monoDip, sumBelow } from '../../acoustics/coherent-mono';
import { stripsOf } from '../../arrays/routing';
import { monoWaves, nearArrivals } from '../../localisation/cues';
import { readyArray } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber } from '../../units/format';
import { edgesAt, pointsAt } from '../edges-at';
import { MONO_LOSS_DB } from '../criteria';
import { heardArrays, prepareMix } from '../mix';
import { against, leadingMain } from './beside-main';
import {
  namesOf,
  type ArrayView,
  type Fix,
  type Found,
  type Lever,
  type Rule,
  type Severity,
} from './finding';
import { arrayGauge } from './gauges';
import { angles, back, delayed, faders, sideLevels, spacings, widerPatterns } from './levers';

/** A comb that begins below this takes the body of a sound, Hz. */
const BODY_HZ = 2000;
const DEEP_COMB_DB = 12;

/** Weaker than this nothing is left, dB. */
const GONE_DB = -40;

const lossText = (sumDb: number): string =>
  sumDb < GONE_DB ? 'all but cancelled' : `up to ${formatNumber(Math.abs(sumDb), 1)} dB weaker`;

/** How grave a loss is: only what somebody said matters is more than a note. */
function gravity({ brief }: Session): Severity | null {
  switch (brief.intent.mono) {
    case 'must-survive':
      return 'fault';
    case 'should-survive':
      return 'caution';
    case 'may-be-lost':
      return null;
    default:
      return 'note';
  }
}

/** The loss is known and wanted so. */
const accepted = (array: MicArray): Lever => [
  {
    label: `Accept what mono loses of ${array.name}`,
    changes: [{ kind: 'array', id: array.id, set: { monoLossAccepted: true } }],
  },
];

/** Its weakest mono sum over middle and ends, dB; null at a capsule. */
function weakestAt({ session, array }: ArrayView, source: Source, centreDb: number): number {
  if (source.widthM === 0) return centreDb;
  const ready = readyArray(array);
  const { speed } = contextOf(session);
  return Math.min(
    centreDb,
    ...edgesAt(ready, source).flatMap((edge) => {
      const arrivals = nearArrivals(ready, edge, speed);
      return arrivals ? coherentSumDb(monoWaves(ready, arrivals)) : [];
    }),
  );
}

/** Players of an array whose mono sum is a loss, with it. */
function lossesOf(view: ArrayView): { id: string; sumDb: number }[] {
  const byId = new Map(view.session.sources.map((source) => [source.id, source]));
  return view.figures.own.flatMap((of) => {
    const source = byId.get(of.id);
    // Who is heard in antiphase is told so, and that mono loses it; asked for, it is told twice.
    const asked = view.session.brief.intent.mono !== null || !of.antiphase;
    const sumDb = source && of.mono && asked ? weakestAt(view, source, of.mono.sumDb) : 0;
    return sumDb < MONO_LOSS_DB ? [{ id: of.id, sumDb }] : [];
  });
}

function arrayLoss(view: ArrayView): Found[] {
  const { session, array } = view;
  const severity = gravity(session);
  if (severity === null || array.monoLossAccepted) return [];
  const lost = lossesOf(view);
  if (lost.length === 0) return [];
  const worst = Math.min(...lost.map(({ sumDb }) => sumDb));
  return [
    {
      severity,
      message: `${namesOf(session, lost)}: ${lossText(worst)} in the mono sum of ${array.name}.`,
      sources: lost,
      figures: { worstSumDb: worst },
      size: Math.abs(Math.max(GONE_DB, worst)),
      gauge: arrayGauge(array.id, 'weakest in mono', 'dB', 1, (figures, there) => {
        const again = there.arrays.find(({ id }) => id === array.id);
        if (!again) return null;
        const sums = lossesOf({ session: there, array: again, figures });
        return Math.max(GONE_DB, Math.min(0, ...sums.map(({ sumDb }) => sumDb)));
      }),
      levers: () => [
        angles(array, -1),
        sideLevels(array, -1),
        widerPatterns(session, array),
        back(session, array),
        spacings(session, array, -1),
        accepted(array),
      ],
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
  const { technique } = array;
  const coincident: Fix[] =
    technique.kind === 'pair' && technique.spacingM > 0 && technique.pattern !== 'omni'
      ? [
          {
            label: 'Bring its capsules to one point, 90° apart',
            changes: [
              {
                kind: 'array',
                id: array.id,
                set: {
                  technique: { ...technique, spacingM: 0, includedAngleDeg: 90 },
                  standard: '',
                },
              },
            ],
          },
        ]
      : [];
  return [
    {
      severity: 'caution',
      message: `${namesOf(session, combed)}: combed in mono from ${formatNumber(lowest, 0)} Hz at ${array.name}.`,
      sources: combed,
      figures: { firstNotchHz: lowest },
      size: combed.length,
      gauge: arrayGauge(
        array.id,
        'players combed in mono',
        '',
        0,
        (of) =>
          of.own.filter(
            ({ mono }) =>
              mono !== null && mono.combDb > DEEP_COMB_DB && (mono.firstNotchHz ?? 1e9) < BODY_HZ,
          ).length,
      ),
      levers: () => [spacings(session, array, -1), coincident, accepted(array)],
      instead:
        'Two microphones apart comb when they are added: a coincident pair or mid-side does not.',
    },
  ];
}

interface MixLoss {
  lost: { id: string; sumDb: number }[];
  combed: { id: string; hz: number }[];
}

/** The mono sum of everything together, at the middle and both ends of each player. */
function mixLosses(session: Session): MixLoss {
  const found: MixLoss = { lost: [], combed: [] };
  const mix = heardArrays(session).length < 2 ? null : prepareMix(session);
  if (!mix) return found;
  const { speed } = contextOf(session);
  for (const source of session.sources) {
    const all = pointsAt(mix, source).flatMap((point) => {
      const arrivals = nearArrivals(mix, point, speed);
      return arrivals ? [monoWaves(mix, arrivals)] : [];
    });
    const sums = all.flatMap((waves) => sumBelow(waves, MONO_LOSS_DB) ?? []);
    if (sums.length > 0) found.lost.push({ id: source.id, sumDb: Math.min(...sums) });
    else if (session.brief.intent.mono === 'must-survive') {
      const nulls = all.flatMap((waves) => monoDip(waves, BODY_HZ).firstNullHz ?? []);
      if (nulls.length > 0) found.combed.push({ id: source.id, hz: Math.min(...nulls) });
    }
  }
  return found;
}

/** One array at a time against the others: turned over, moved in time, or lower. */
function mixLevers(session: Session): Lever[] {
  const main = leadingMain(session);
  const heard = heardArrays(session).filter(({ id }) => id !== main?.id);
  const turnedOver = heard.map((array): Fix => {
    const capsules = stripsOf(array.technique, array.mix.capsules).map((strip) => ({
      ...strip,
      polarity: strip.polarity === 1 ? (-1 as const) : (1 as const),
    }));
    return {
      label: `Turn the polarity of ${array.name} over`,
      changes: [{ kind: 'array', id: array.id, set: { mix: { ...array.mix, capsules } } }],
    };
  });
  const later = heard.flatMap((array) =>
    [2, 5, 10, 15].flatMap((ms) => {
      const leads = main
        ? session.sources.flatMap((source) => against(session, array, main, source)?.leadMs ?? [])
        : [];
      const byMs = Math.max(0, ...leads) + ms;
      return delayed(array, byMs, `Delay ${array.name} by ${formatNumber(byMs, 2)} ms`);
    }),
  );
  return [turnedOver, later, ...heard.slice(0, 4).map((array) => faders(array, -1))];
}

function wholeMix(session: Session): Found[] {
  const severity = gravity(session);
  if (severity === null) return [];
  const { lost, combed } = mixLosses(session);
  const found: Found[] = [];
  if (lost.length > 0) {
    const sumDb = Math.min(...lost.map((one) => one.sumDb));
    found.push({
      severity,
      subject: 'loss',
      message: `${namesOf(session, lost)}: ${lossText(sumDb)} in the mono sum of the whole mix, where microphones cancel each other.`,
      sources: lost,
      figures: { worstSumDb: sumDb },
      size: Math.abs(Math.max(GONE_DB, sumDb)),
      gauge: {
        words: 'weakest in mono',
        unit: 'dB',
        digits: 1,
        of: (there) =>
          Math.max(GONE_DB, Math.min(0, ...mixLosses(there).lost.map((one) => one.sumDb))),
      },
      levers: () => mixLevers(session),
    });
  }
  if (combed.length > 0) {
    const firstNullHz = Math.min(...combed.map(({ hz }) => hz));
    found.push({
      severity: 'caution',
      subject: 'comb',
      message: `${namesOf(session, combed)}: the mono sum of the whole mix has a null at ${formatNumber(firstNullHz, 0)} Hz and again at odd multiples of it.`,
      sources: combed,
      figures: { firstNullHz },
      size: combed.length,
      gauge: {
        words: 'players with such a null',
        unit: '',
        digits: 0,
        of: (there) => mixLosses(there).combed.length,
      },
      levers: () => mixLevers(session),
      instead: 'Let one array lead: two of about the same level comb wherever they stand.',
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
    severities: ['fault', 'caution', 'note'],
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
    severities: ['fault', 'caution', 'note'],
    reason: REASON,
    of: 'session',
    check: wholeMix,
  },
];
