import { parseArgs } from 'node:util';
import {
  auditMidSide,
  LONGEST_STRETCH_S,
  matchOf,
  MEASURABLE,
  measureTake,
  overviewOf,
  removedFundamentals,
  sideOf,
  symmetryOf,
  tapsOf,
  USUAL_DELAY_MS,
  type Measurable,
  type Sound,
  type Stretch,
  type TakeFigures,
  type TapTest,
} from '../core/audio';
import { LOG_KINDS } from '../core/session/schema-journals';
import { speedOfSound } from '../core/units';
import { keptFigures, reportModel, type ReportModel } from '../paper/measurement-report';
import { verdictReport } from '../paper/verdict-report';
import { reportPdf } from '../paper/report-pdf';
import { againstSession } from './against';
import { barBySession } from './bar';
import type { Session } from '../core/session';
import { Checker } from './checker';
import { fonts } from './fonts';
import { joinNegatives } from './options';
import { openTakes } from './recordings';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

/** More decays than this nobody counts in one stretch. */
const MOST_DECAYS = 100;
/** A room's, where nobody says: samples as metres of air, °C. */
const USUAL_TEMPERATURE_C = 20;
/** No microphone stands farther from another, ms. */
const MOST_DELAY_MS = 2000;

const TEXTS = [
  'what',
  'from',
  'to',
  'against',
  'most',
  'decay',
  'columns',
  'high-pass',
  'taps',
  'left',
  'mid-side',
  'match',
  'channel',
  'front',
  'rear',
  'side',
  'report',
  'order',
  'bar',
  'at',
  'tape',
] as const;
type Text = (typeof TEXTS)[number];
type Given = Partial<Record<Text, string>> & {
  claps?: boolean;
  leads?: boolean;
  plumb?: boolean;
};

function read(args: readonly string[]): { files: string[]; given: Given } {
  try {
    const texts = Object.fromEntries(TEXTS.map((name) => [name, { type: 'string' as const }]));
    const { values, positionals } = parseArgs({
      args: joinNegatives(args),
      options: {
        json: { type: 'boolean' },
        claps: { type: 'boolean' },
        leads: { type: 'boolean' },
        plumb: { type: 'boolean' },
        ...texts,
      },
      allowPositionals: true,
      strict: true,
    });
    if (positionals.length === 0) throw new Usage('measure takes a FILE, or the files of a take');
    return { files: positionals, given: values };
  } catch (error) {
    throw error instanceof Usage
      ? error
      : new Usage(error instanceof Error ? error.message : String(error));
  }
}

/** What is asked of a take of so many channels and seconds; what is wrong is collected. */
class Asked {
  readonly check = new Checker();

  constructor(
    private readonly given: Given,
    private readonly channels: number,
    private readonly seconds: number,
  ) {}

  number(name: Text, usual: number, min: number, max: number, unit: string): number {
    const text = this.given[name];
    return text === undefined ? usual : this.check.number(name, text, { min, max, unit });
  }

  parts(): Measurable[] {
    const text = this.given.what;
    if (text === undefined) return [...MEASURABLE];
    return text
      .split(',')
      .flatMap((part) => this.check.oneOf('what', part.trim(), MEASURABLE) ?? []);
  }

  /** "1,2" as channels from 0. */
  tracks(name: Text, least: number, most: number): number[] | null {
    const text = this.given[name];
    if (text === undefined) return null;
    const tracks = text.split(',').map((part) => Number(part.trim() || NaN));
    const fits = tracks.every((n) => Number.isInteger(n) && n >= 1 && n <= this.channels);
    if (fits && tracks.length >= least && tracks.length <= most) return tracks.map((n) => n - 1);
    const count = least === most ? `${least}` : `${least} to ${most}`;
    this.check.errors.push(
      `--${name}: ${JSON.stringify(text)}; allowed: ${count} channels from 1 to ${this.channels}, joined by commas`,
    );
    return null;
  }

  /** "2.5-8" as a stretch. */
  stretch(name: Text): Stretch | null {
    const text = this.given[name];
    if (text === undefined) return null;
    const [, from, to] = /^\s*([\d.]+)\s*-\s*([\d.]+)\s*$/.exec(text) ?? [];
    const stretch = { fromS: Number(from), toS: Number(to) };
    const longest = Math.min(this.seconds, stretch.fromS + LONGEST_STRETCH_S);
    if (stretch.toS > stretch.fromS && stretch.toS <= longest) return stretch;
    this.check.errors.push(
      `--${name}: ${JSON.stringify(text)}; allowed: FROM-TO in seconds within 0 to ${this.seconds.toFixed(2)}, at most ${LONGEST_STRETCH_S} s`,
    );
    return null;
  }
}

const one = (channel: number): number => channel + 1;

/** Channels are counted from 1 on the outside. */
function numbered(figures: TakeFigures): TakeFigures {
  const { clips, delays, identity } = figures;
  return {
    ...figures,
    clips: clips?.map((clip) => ({ ...clip, channel: one(clip.channel) })) ?? null,
    delays: delays?.map((delay) => ({ ...delay, channel: one(delay.channel) })) ?? null,
    identity: identity && {
      same: identity.same.map((same) => ({
        ...same,
        first: one(same.first),
        second: one(same.second),
      })),
      silent: identity.silent.map(one),
      correlations: identity.correlations.map(({ first, second, value }) => ({
        first: one(first),
        second: one(second),
        value,
      })),
    },
  };
}

const numberedTaps = ({ taps, wrong, ...test }: TapTest): object => ({
  ...test,
  taps: taps.map((tap) => ({ ...tap, channel: one(tap.channel) })),
  wrong: wrong.map(({ announced, heard }) => ({ announced: one(announced), heard: one(heard) })),
});

interface Measured {
  errors: string[];
  /** as they are written, channels counted from 1 */
  figures: Partial<TakeFigures>;
  /** as they were measured, and where; null where they were not */
  plain: { figures: TakeFigures; fromS: number; toS: number } | null;
}

/** What was measured as a report on paper. */
async function written(
  file: string,
  name: string,
  { info }: Sound,
  { figures, fromS, toS }: NonNullable<Measured['plain']>,
  machine: Machine,
): Promise<string | null> {
  const { sampleRateHz } = info.format;
  const entry = LOG_KINDS.measurement.parse({
    kind: 'measurement',
    at: new Date().toISOString(),
    file: { name },
    fromS,
    toS: toS * sampleRateHz < info.frames ? toS : null,
    figures: keptFigures(figures, {
      names: info.channelNames,
      sampleRateHz,
      speed: speedOfSound(USUAL_TEMPERATURE_C),
      units: 'metric',
    }),
  });
  return writtenReport(file, reportModel(entry, ''), machine);
}

/** A report as a PDF file. @returns why it could not be written */
async function writtenReport(
  file: string,
  model: ReportModel,
  machine: Machine,
): Promise<string | null> {
  try {
    await machine.write(file, [reportPdf(model, fonts())]);
    return null;
  } catch (error) {
    return `--report: ${file} cannot be written (${(error as Error).message})`;
  }
}

async function measureSound(sound: Sound, given: Given, machine: Machine): Promise<Measured> {
  const { channels, sampleRateHz } = sound.info.format;
  const seconds = sound.info.frames / sampleRateHz;
  const asked = new Asked(given, channels, seconds);
  const what = asked.parts();
  const fromS = asked.number('from', 0, 0, seconds, 's');
  const toS = asked.number('to', seconds, fromS, seconds, 's');
  const against = asked.number('against', 1, 1, channels, '');
  const mostMs = asked.number('most', USUAL_DELAY_MS, 1, MOST_DELAY_MS, 'ms');
  const decay = asked.number('decay', 0, 1, MOST_DECAYS, '');
  const columns = asked.number('columns', 0, 1, 100_000, '');
  const highPass = asked.number('high-pass', 0, 1, 20_000, 'Hz');
  const taps = asked.tracks('taps', 2, channels);
  const midSide = asked.tracks('mid-side', 2, 3);
  const match = asked.tracks('match', 2, 2);
  const [channel = 0] = asked.tracks('channel', 1, 1) ?? [];
  const [left, front, rear, side] = (['left', 'front', 'rear', 'side'] as const).map((name) =>
    asked.stretch(name),
  );
  if (Math.round(fromS * sampleRateHz) >= Math.round(toS * sampleRateHz)) {
    asked.check.errors.push(
      `nothing to measure: from ${fromS} to ${toS} s there is no sample; the take has ${seconds} s`,
    );
  }
  if (!Number.isInteger(against)) asked.check.errors.push('--against: allowed: a whole number');
  if (!Number.isInteger(decay)) asked.check.errors.push('--decay: allowed: a whole number');
  if ((front ?? null) === null && rear) asked.check.errors.push('--rear needs --front');
  if (front && !rear) asked.check.errors.push('--front needs --rear');
  if (asked.check.errors.length > 0)
    return { errors: asked.check.errors, figures: {}, plain: null };
  const range = { fromS, toS };
  const progress = (fraction: number): void => machine.progress('Measuring', fraction);
  const figures = await measureTake(sound, {
    what,
    ...range,
    against: against - 1,
    mostMs,
    decay: decay === 0 ? null : decay - 1,
    progress,
  });
  const more: Record<string, unknown> = {};
  const answer = (
    name: string,
    outcome: { ok: true; value: unknown } | { ok: false; message: string },
  ) => {
    more[name] = outcome.ok ? outcome.value : { uncertain: outcome.message };
  };
  if (highPass > 0) more.removed = removedFundamentals(highPass);
  if (columns > 0) more.overview = plainly(await overviewOf(sound, columns));
  if (taps) more.taps = numberedTaps(await tapsOf(sound, taps, range));
  if (left) more.left = sideWord(await sideOf(sound, 0, 1, left));
  if (midSide) more.midSide = await auditMidSide(sound, midSide, range);
  if (match) answer('match', await matchOf(sound, match[0] ?? 0, match[1] ?? 0, range));
  if (front && rear) {
    answer('symmetry', await symmetryOf(sound, channel, { front, rear, side: side ?? null }));
  }
  return { errors: [], figures: { ...numbered(figures), ...more }, plain: { figures, fromS, toS } };
}

function sideWord({ nearer, uncertain }: Awaited<ReturnType<typeof sideOf>>): object {
  const verdict = nearer === null ? 'uncertain' : nearer === 0 ? 'as announced' : 'swapped';
  return { verdict, uncertain };
}

const plainly = (overview: Awaited<ReturnType<typeof overviewOf>>): object => ({
  ...overview,
  channels: overview.channels.map((lists) =>
    Object.fromEntries(Object.entries(lists).map(([name, list]) => [name, Array.from(list)])),
  ),
});

/** Samples that were no sound, in words. */
function faultsOf({ faults }: Partial<Pick<TakeFigures, 'faults'>>): string[] {
  if (!faults || faults.samples === 0) return [];
  const since =
    faults.firstAtS === null ? '' : `, the first of them near ${faults.firstAtS.toFixed(2)} s`;
  return [
    `${faults.samples} samples are no numbers, infinite, or beyond 1e9 of full scale${since}: they are read as silence`,
  ];
}

/** A session, and the one take that is read with it. @param option that named the session */
async function withSession(
  files: readonly string[],
  { option, file }: { option: string; file: string },
  machine: Machine,
  act: (session: Session, take: { name: string; sound: Sound }) => Promise<CommandResult>,
): Promise<CommandResult> {
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const closing: (() => Promise<void>)[] = [];
  try {
    const { takes, errors } = await openTakes(files, machine, closing);
    if (errors.length > 0) return failed(errors);
    const [take, another] = takes;
    if (!take || another) return failed([`--${option}: allowed: one file, or those of one take`]);
    return await act(loaded.session, take);
  } finally {
    for (const close of closing) await close();
  }
}

/** `measure FILE… --against SESSION`: a take held against the plan that it was made under. */
const heldAgainst = (
  files: readonly string[],
  given: Given,
  file: string,
  machine: Machine,
): Promise<CommandResult> =>
  withSession(files, { option: 'against', file }, machine, async (session, take) => {
    const { claps = false, leads = false, order = null } = given;
    if (leads && order !== null) {
      throw new Usage('--order and --leads say two things of who plays when');
    }
    const held = await againstSession(take.sound, session, { claps, leads, order }, machine);
    if ('errors' in held) return failed(held.errors.map((error) => `${take.name}: ${error}`));
    if (given.report !== undefined) {
      const facts = { title: take.name, facts: session.title, against: held.against };
      const problem = await writtenReport(given.report, verdictReport(held.held, facts), machine);
      if (problem !== null) return failed([problem]);
    }
    return succeeded({ name: take.name, ...held.verdict });
  });

/** `measure FILE… --claps --bar SESSION`: how a rig really stands, by claps at known places. */
const barOf = (
  files: readonly string[],
  { at, tape, plumb = false }: Given,
  file: string,
  machine: Machine,
): Promise<CommandResult> =>
  withSession(files, { option: 'bar', file }, machine, async (session, take) => {
    const answer = await barBySession(take.sound, session, { at, tape, plumb }, machine);
    return 'errors' in answer
      ? failed(answer.errors.map((error) => `${take.name}: ${error}`))
      : succeeded({ name: take.name, ...answer.bar });
  });

/** `measure FILE… [--what PARTS] …`: what a recording holds, as JSON; several files are joined to takes. */
export async function measureCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const { files, given } = read(args);
  // A number is a channel, anything else a session.
  if (given.against !== undefined && Number.isNaN(Number(given.against))) {
    return heldAgainst(files, given, given.against, machine);
  }
  if (given.bar !== undefined) {
    if (!given.claps)
      throw new Usage('--bar needs --claps: what is it that sounds at these places?');
    return barOf(files, given, given.bar, machine);
  }
  if (given.at !== undefined || given.tape !== undefined || given.plumb) {
    throw new Usage('--at, --tape and --plumb need --claps --bar SESSION');
  }
  if (given.claps || given.leads || given.order !== undefined) {
    throw new Usage(
      '--claps, --order and --leads need --against SESSION, or --claps --bar SESSION',
    );
  }
  const closing: (() => Promise<void>)[] = [];
  try {
    const opened = await openTakes(files, machine, closing);
    if (opened.errors.length > 0) return failed(opened.errors);
    const errors: string[] = [];
    const takes = [];
    for (const { name, sound } of opened.takes) {
      const { errors: wrong, figures, plain: whole } = await measureSound(sound, given, machine);
      if (wrong.length > 0) return failed(wrong);
      if (given.report !== undefined && whole) {
        if (opened.takes.length > 1) {
          return failed(['--report: allowed: one file, or those of one take']);
        }
        const problem = await written(given.report, name, sound, whole, machine);
        if (problem !== null) return failed([problem]);
      }
      const { warnings, ixml: _, ...about } = sound.info;
      const said = [...warnings, ...faultsOf(figures)];
      errors.push(...said.map((warning) => `${name}: ${warning}`));
      takes.push({ name, file: about, warnings: said, ...figures });
    }
    const [first] = takes;
    return { ...succeeded(files.length === 1 ? first : { takes }), errors };
  } finally {
    for (const close of closing) await close();
  }
}
