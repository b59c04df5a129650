import { gainPlan } from '../analysis/gain';
import { isKnown, enabledArrays } from '../session/lists';
import type { MicArray, Session } from '../session/schema';
import { instrumentOf } from '../ensembles/instruments';
import { builtFigures, type BuiltField } from '../rig/as-built';
import { standPlans } from '../mechanics/stands';
import { matters } from '../session/journals';

/** What is missing for a rig to be put up again by somebody who was not there. */

export type Need =
  'without it nothing stands where it stood' | 'without it it sounds otherwise' | 'good to know';

/** One figure that is not known. */
export interface Missing {
  /** stable from one session to the next */
  code: string;
  /** what it is of: "Main pair", "The hall" */
  subject: string;
  /** "Spacing" */
  what: string;
  need: Need;
  /** where it is given: a station, its page, and what to do there */
  station: string;
  page: string;
  give: string;
  /** the array that it is of; empty: none */
  arrayId: string;
}

export interface Completeness {
  /** the gravest first */
  missing: Missing[];
  /** figures that are known, and all that were looked at */
  known: number;
  all: number;
}

const NEEDS: readonly Need[] = [
  'without it nothing stands where it stood',
  'without it it sounds otherwise',
  'good to know',
];
const [PLACE, SOUND, GOOD] = NEEDS as [Need, Need, Need];

interface Look {
  ok: boolean;
  code: string;
  subject: string;
  what: string;
  need: Need;
  at: readonly [station: string, page: string];
  give: string;
  arrayId?: string;
}

function hallLooks({ venue }: Session): Look[] {
  const subject = venue.name === '' ? 'The hall' : venue.name;
  const look = (code: string, what: string, ok: boolean, need: Need, give: string): Look => ({
    code,
    subject,
    what,
    ok,
    need,
    at: ['brief', code === 'hall-name' ? 'job' : 'hall'],
    give,
  });
  const [first, second] = venue.datumPoints;
  const apart = first && second && Math.hypot(first.x - second.x, first.y - second.y) > 0.01;
  return [
    look(
      'hall-name',
      'Its name',
      venue.name.trim() !== '',
      PLACE,
      'Type it as Venue on the page The job: marks and rigs are found again by it.',
    ),
    look(
      'tape-points',
      'Two tape points apart from each other',
      Boolean(apart),
      PLACE,
      'Place two under Tape points, at corners that nobody moves.',
    ),
    look(
      'hall-size',
      'Width and depth',
      venue.widthM !== null && venue.depthM !== null,
      GOOD,
      'Measure wall to wall and type Width and Depth.',
    ),
    look('hall-height', 'Height', venue.heightM !== null, GOOD, 'Type Height.'),
    look(
      'datum',
      'Where the datum is',
      venue.origin !== null,
      PLACE,
      'Type how far the datum is from the left wall and from the one behind the audience.',
    ),
    look(
      'reverberation',
      'Reverberation time',
      venue.rt60S !== null,
      SOUND,
      'Type it, or take it from a clap on the Bench, page Room.',
    ),
  ];
}

const FIELD_WORDS: Readonly<Record<BuiltField, string>> = {
  x: 'place across',
  y: 'depth',
  z: 'height',
  aimDeg: 'aim',
  tiltDeg: 'tilt',
  spacingM: 'spacing',
  includedAngleDeg: 'included angle',
  rightDb: 'right against left in level',
};

function arrayLooks(session: Session, array: MicArray): Look[] {
  const { id, name: subject, technique } = array;
  const built = builtFigures(session).filter((figure) => figure.arrayId === id);
  const open = built.filter((figure) => figure.built === null);
  const look = (
    code: string,
    what: string,
    ok: boolean,
    need: Need,
    at: Look['at'],
    give: string,
  ): Look => ({ code: `${code} ${id}`, subject, what, ok, need, at, give, arrayId: id });
  const gains = gainPlan(session).filter(({ arrayId }) => arrayId === id);
  const unnamed = gains.filter(({ microphone }) => microphone === null);
  const lacks = (field: MicArray['missing'][number]): boolean =>
    !isKnown(array) && array.missing.includes(field);
  const pages: Look['at'] = ['array', 'pair-geometry'];
  const plan = standPlans(session).find((one) => one.arrayId === id);
  return [
    ...(technique.kind === 'pair'
      ? [
          look(
            'spacing',
            'Spacing',
            !lacks('spacingM'),
            PLACE,
            pages,
            'Type Spacing, capsule to capsule.',
          ),
          look(
            'angle',
            'Included angle',
            !lacks('includedAngleDeg'),
            PLACE,
            pages,
            'Type Included angle.',
          ),
        ]
      : []),
    look(
      'microphones',
      'Which microphones',
      unnamed.length === 0,
      SOUND,
      ['brief', 'kit'],
      'Enter them in the kit with their count; the channel list then says which is where.',
    ),
    look(
      'gains',
      'Preamplifier gains',
      gains.every(({ gainDb }) => gainDb !== null),
      GOOD,
      ['brief', 'kit'],
      'They follow from the sensitivity of the microphones: type it in the kit.',
    ),
    ...(array.hung || plan === undefined
      ? []
      : [
          look(
            'stand',
            'Which stand',
            plan.stand !== null,
            GOOD,
            ['brief', 'kit'],
            'Enter stands that reach its height.',
          ),
        ]),
    look(
      'as-built',
      `What was really set: ${open.map(({ field }) => FIELD_WORDS[field]).join(', ')}`,
      open.length === 0,
      GOOD,
      ['rig', 'built'],
      'Measure it once it stands and type what the tape says, or mark that it is as planned.',
    ),
  ];
}

function playerLooks(session: Session): Look[] {
  const subject = 'The players';
  const at: Look['at'] = ['floor', ''];
  const unknown = session.sources.filter(({ kind }) => instrumentOf(kind) === null);
  const people = session.takes.some(({ state }) => state.people !== '');
  const temperature = session.takes.some(({ state }) => state.temperatureC !== null);
  return [
    {
      code: 'players',
      subject,
      what: 'Where they sit',
      ok: session.sources.length > 0,
      need: SOUND,
      at,
      give: 'Add players, or an ensemble from a template.',
    },
    {
      code: 'kinds',
      subject,
      what:
        unknown.length === 0
          ? 'What each plays'
          : `What plays: ${unknown
              .slice(0, 4)
              .map(({ name }) => name)
              .join(', ')}${unknown.length > 4 ? ' and others' : ''}`,
      ok: unknown.length === 0,
      need: SOUND,
      at,
      give: 'Choose an instrument for each of them.',
    },
    {
      code: 'date',
      subject: 'The day',
      what: 'Its date',
      ok: session.brief.date !== '',
      need: GOOD,
      at: ['brief', 'job'],
      give: 'Type Date.',
    },
    {
      code: 'who',
      subject: 'The day',
      what: 'Who played and who was in the hall',
      ok: people,
      need: GOOD,
      at: ['soundcheck', 'takes'],
      give: 'Say who with a take, under its states.',
    },
    {
      code: 'temperature',
      subject: 'The day',
      what: 'The temperature of the hall at a take',
      ok: temperature,
      need: GOOD,
      at: ['soundcheck', 'takes'],
      give: 'Say it with a take, under its states.',
    },
  ];
}

/** What is known of a rig, and what is missing for it to be put up again, figure by figure. */
export function completenessOf(session: Session): Completeness {
  const arrays = enabledArrays(session);
  const looks: Look[] = [
    ...hallLooks(session),
    ...(arrays.length === 0
      ? [
          {
            ...{ code: 'arrays', subject: 'The rig', what: 'An array', ok: false, need: PLACE },
            ...{
              at: ['floor', ''] as const,
              give: 'Add an array, or put up what stood at a mark.',
            },
          },
        ]
      : arrays.flatMap((array) => arrayLooks(session, array))),
    ...playerLooks(session),
    {
      ...{ code: 'proof', subject: 'The rig', what: 'A rating of what came of it', need: GOOD },
      ok: matters(session.marks).some(
        ({ standing }) => standing !== null && standing.rating !== null,
      ),
      at: ['recall', 'marks'],
      give: 'Make a mark of it and rate it: next time it is offered first.',
    },
  ];
  const missing = looks
    .filter(({ ok }) => !ok)
    .map(({ ok: _, at: [station, page], arrayId = '', ...look }) => ({
      ...look,
      station,
      page,
      arrayId,
    }))
    .sort((a, b) => NEEDS.indexOf(a.need) - NEEDS.indexOf(b.need));
  return { missing, known: looks.length - missing.length, all: looks.length };
}

/** "Whole: somebody else can put it up from the sheet." or what is missing, in a sentence. */
export function completenessText({ missing, known, all }: Completeness): string {
  const grave = missing.filter(({ need }) => need === PLACE);
  const figures = `${known} of ${all} are known`;
  if (missing.length === 0)
    return `Nothing is missing: somebody else can put it up again from the sheet (${figures}).`;
  if (grave.length > 0) {
    return `It cannot be put up again where it stood: ${grave.length} ${grave.length === 1 ? 'figure is' : 'figures are'} missing for that (${figures}).`;
  }
  const sound = missing.filter(({ need }) => need === SOUND).length;
  return sound > 0
    ? `It can be put up where it stood; ${sound} ${sound === 1 ? 'figure' : 'figures'} that it sounds by ${sound === 1 ? 'is' : 'are'} missing (${figures}).`
    : `It can be put up again; ${missing.length} ${missing.length === 1 ? 'thing' : 'things'} would be good to know (${figures}).`;
}
