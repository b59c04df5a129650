import { mean } from 'd3-array';
import { panGains, stripsOf } from '../../arrays/routing';
import { nearCues } from '../../localisation/cues';
import { placeOf } from '../../localisation/placed';
import { speakingModel } from '../../localisation/leading';
import { readyArray } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session, Source } from '../../session/schema';
import { amplitudeDb, toDeg, wrapDeg } from '../../units/guard';
import { formatNumber } from '../../units/format';
import { arrivalsOf, panForShift, proposedStrips } from '../arrivals';
import { heardArrays } from '../mix';
import { spillMatrix } from '../spill';
import { against, FIRST_WAVE, LEAD_MS, leadingMain, TOO_WEAK_DB } from './beside-main';
import { namesOf, sourcesOf, type Fix, type Found, type Rule } from './finding';
import { faders, narrowerPatterns, nearer } from './levers';

/** What spots are judged by: that each is with the picture, and hears whom it is for. */

/** A heard spot and the players that it is for. */
interface Served {
  spot: MicArray;
  players: readonly Source[];
}

function spotsWithPlayers(session: Session): Served[] {
  const { speed } = contextOf(session);
  return heardArrays(session)
    .filter(({ role }) => role === 'spot')
    .map((spot) => ({ spot, players: playersOf(spot, session.sources, speed) }));
}

/** What would put a spot with the main array, for the player whom it leads most. */
function leadOf(session: Session, main: MicArray, { spot, players }: Served) {
  const led = players.flatMap((source) => {
    const proposal = arrivalsOf(session, source).proposals.find(
      ({ arrayId }) => arrayId === spot.id,
    );
    const level = against(session, spot, main, source)?.levelDb ?? -Infinity;
    return proposal && proposal.leadsByMs > LEAD_MS && level >= -TOO_WEAK_DB
      ? [{ source, proposal }]
      : [];
  });
  const [most] = [...led].sort((a, b) => b.proposal.leadsByMs - a.proposal.leadsByMs);
  return most ? { ...most.proposal, sources: led.map(({ source }) => source) } : null;
}

function spotsLead(session: Session): Found[] {
  const main = leadingMain(session);
  if (!main) return [];
  return spotsWithPlayers(session).flatMap((served): Found[] | Found => {
    const { spot } = served;
    const lead = leadOf(session, main, served);
    if (!lead) return [];
    const { leadsByMs, delayMs, sources } = lead;
    // Its pans stay as they are: only the delay is what is wrong.
    const capsules = proposedStrips(spot, { ...lead, pan: null }).map((strip) => ({ ...strip }));
    // What has a delay already gets another one, not more of it.
    const isDelayed = spot.mix.capsules.some((strip) => strip.delayMs > 0);
    const [arrives, is] = sources.length === 1 ? ['arrives', 'is'] : ['arrive up to', 'are'];
    const ms = formatNumber(delayMs, 2);
    return {
      severity: 'caution',
      message: `${spot.name}: ${namesOf(session, sources)} ${arrives} ${formatNumber(leadsByMs, 1)} ms before ${main.name} and ${is} pulled out of the picture.`,
      sources,
      arrays: [spot],
      figures: { leadsByMs, delayMs },
      size: leadsByMs,
      // Softer it would do no more than what is not heard: only where no delay can put it right.
      levers: () => [
        delayMs > BOUNDS.delayMs.max
          ? faders(spot, -1)
          : [
              {
                label: isDelayed
                  ? `Set the delay of ${spot.name} to ${ms} ms`
                  : `Delay ${spot.name} by ${ms} ms`,
                changes: [{ kind: 'array', id: spot.id, set: { mix: { ...spot.mix, capsules } } }],
              },
            ],
      ],
      cause: {
        key: 'all',
        weight: delayMs,
        words: (all) =>
          `${all.length} spots lead ${main.name}, by up to ${formatNumber(leadsByMs, 1)} ms, and pull their players out of the picture: ${namesOf(session, sourcesOf(all))}.`,
        fixLabel: 'Delay them all',
      },
    };
  });
}

/** Off the place that the main array gives its player by more than this, of the half base. */
const PAN_OFF = 0.25;

const sideText = (amount: number): string => {
  const percent = Math.round(Math.abs(amount) * 100);
  if (percent === 0) return 'in the middle';
  return `${percent} % ${amount > 0 ? 'right' : 'left'}`;
};

function spotsPannedElsewhere(session: Session): Found[] {
  const main = leadingMain(session);
  if (!main) return [];
  const { speed } = contextOf(session);
  const ready = readyArray(main);
  const model = speakingModel(session.settings, ready.coincident);
  return spotsWithPlayers(session).flatMap(({ spot, players }): Found[] | Found => {
    const strips = stripsOf(spot.technique, spot.mix.capsules);
    const [strip] = strips;
    const heard = players.filter(
      (source) => (against(session, spot, main, source)?.levelDb ?? -Infinity) >= -TOO_WEAK_DB,
    );
    const shifts = heard.flatMap((source) => {
      const cues = nearCues(ready, source, speed);
      return cues && !cues.antiphase ? [placeOf(cues, model)] : [];
    });
    // Of several players their middle: one pan cannot do more.
    const mainShift = mean(shifts);
    if (!strip || strips.length > 1 || mainShift === undefined) return [];
    const { left, right } = panGains(strip.pan);
    const spotShift = model.shift(amplitudeDb(right) - amplitudeDb(left), 0);
    if (Math.abs(spotShift - mainShift) <= PAN_OFF) return [];
    const pan = Math.round(panForShift(model, mainShift) * 100) / 100;
    const label = `Pan ${spot.name} ${sideText(pan)}`;
    const has = heard.length === 1 ? 'has it' : 'has their middle';
    return {
      severity: 'caution',
      message: `${spot.name}: its pan puts ${namesOf(session, heard)} ${sideText(spotShift)}, where ${main.name} ${has} ${sideText(mainShift)}.`,
      sources: heard,
      arrays: [spot],
      figures: { spotPct: spotShift * 100, mainPct: mainShift * 100 },
      size: Math.abs(spotShift - mainShift),
      levers: () => [
        [
          {
            label,
            changes: [
              {
                kind: 'array',
                id: spot.id,
                set: { mix: { ...spot.mix, capsules: [{ ...strip, pan }] } },
              },
            ],
          },
        ],
      ],
      cause: {
        key: 'all',
        weight: Math.abs(spotShift - mainShift),
        words: (all) =>
          `${all.length} spots put their players elsewhere than ${main.name} does: ${namesOf(session, sourcesOf(all))}.`,
        fixLabel: 'Pan them all',
      },
    };
  });
}

/** A spot keeps so far from what it is for, m. */
const CLOSE_M = 0.3;

/** Turned away from somebody step by step, so that he comes nearer to its null. */
function* turnedAway(spot: MicArray, from: Source | undefined): Generator<Fix> {
  if (!from) return;
  const off = wrapDeg(toDeg(Math.atan2(from.x - spot.x, from.y - spot.y)) - spot.aimDeg);
  for (let deg = 10; deg <= 60; deg += 10) {
    const aimDeg = Math.round(wrapDeg(spot.aimDeg - (off < 0 ? -deg : deg))) || 0;
    yield {
      label: `Turn ${spot.name} ${deg}° away from ${from.name}`,
      changes: [{ kind: 'array', id: spot.id, set: { aimDeg } }],
    };
  }
}

/** Another player nearer than this to the own one is in the way, dB. */
const SPILL_DB = -6;

function spill(session: Session): Found[] {
  const { speed } = contextOf(session);
  const byId = new Map(session.sources.map((source) => [source.id, source]));
  return heardArrays(session)
    .filter(({ role }) => role === 'spot')
    .flatMap((spot): Found[] | Found => {
      const players = new Set(playersOf(spot, session.sources, speed).map(({ id }) => id));
      const row = spillMatrix(session).find(({ arrayId }) => arrayId === spot.id);
      const own = byId.get(row?.ownSourceId ?? '');
      if (!row || !own || !players.has(own.id)) return [];
      const sharesWith = (source: Source | undefined): boolean =>
        source === undefined ||
        players.has(source.id) ||
        (source.group !== '' && source.group === own.group) ||
        (source.sectionId !== '' && source.sectionId === own.sectionId);
      const [worst] = Object.entries(row.spillDb)
        .flatMap(([id, db]) => (db === null || sharesWith(byId.get(id)) ? [] : [{ id, db }]))
        .sort((a, b) => b.db - a.db);
      if (!worst || worst.db <= SPILL_DB) return [];
      const other = byId.get(worst.id)?.name ?? worst.id;
      const how =
        worst.db >= 0.5
          ? `${formatNumber(worst.db, 0)} dB louder than`
          : worst.db > -0.5
            ? 'as loud as'
            : `only ${formatNumber(Math.abs(worst.db), 0)} dB below`;
      return {
        severity: 'note',
        message: `${spot.name}: ${other} is ${how} ${own.name}, whom it is for.`,
        sources: [own, { id: worst.id }],
        arrays: [spot],
        figures: { spillDb: worst.db },
        size: worst.db - SPILL_DB,
        gauge: {
          words: `${other} against ${own.name}`,
          unit: 'dB',
          digits: 1,
          of: (there) =>
            spillMatrix(there).find(({ arrayId }) => arrayId === spot.id)?.spillDb[worst.id] ??
            null,
        },
        levers: () => [
          nearer(session, spot, own, CLOSE_M),
          turnedAway(spot, byId.get(worst.id)),
          narrowerPatterns(session, spot),
        ],
        instead: `${other} is simply louder there: a screen between them, or another seating.`,
        cause: {
          key: 'all',
          weight: worst.db,
          words: (all) =>
            `${all.length} spots hear somebody else nearly as loud as whom they are for, or louder; the worst is ${spot.name}, where ${other} is ${how} ${own.name}.`,
        },
      };
    });
}

export const SPOT_RULES: readonly Rule[] = [
  {
    code: 'spot-leads',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['caution'],
    reason: `${FIRST_WAVE}; a spot belongs with the main array or 5 to 20 ms behind it.`,
    of: 'session',
    check: spotsLead,
  },
  {
    code: 'spot-pan',
    evidence: 'arrivals',
    basis: 'physics',
    severities: ['caution'],
    reason: 'A spot that stands elsewhere than the main array’s image widens or splits its player.',
    of: 'session',
    check: spotsPannedElsewhere,
  },
  {
    code: 'spill',
    evidence: 'spill',
    basis: 'physics',
    severities: ['note'],
    reason: 'Level of each player at the spot: at 1 m, less distance, with its pattern.',
    of: 'session',
    check: spill,
  },
];
