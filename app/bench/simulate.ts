import type { RenderOptions } from '../../core/audio/render/options';
import { PHRASE_NAMES } from '../../core/audio/players/score';
import type { Plan, Session, Take } from '../../core/session';
import { simulatedTake } from '../audio/simulated';
import { planOf } from '../document/plan';
import { sessionStore } from '../document/session-store';
import { planOfVersion } from '../keeping/versions';
import type { Options } from '../workers/run';
import { openRecordings, type Origin } from './opening';

/** What a simulated take on the bench is of. */
export const SIMULATED = {
  music: { name: 'everybody together', options: { take: 'music' } },
  'roll call': { name: 'one after another', options: { take: 'roll call' } },
  claps: { name: 'a clap at every place', options: { take: 'claps' } },
} as const satisfies Record<string, { name: string; options: Partial<RenderOptions> }>;
export type Simulated = keyof typeof SIMULATED;

const SEED = 1;
const RATE_HZ = 48_000;

/** The plan that a take was made under; the plan of now where it names none. */
export const planOfTake = async (session: Session, take: Take): Promise<Plan> =>
  (await planOfVersion(session, take.version)) ?? planOf(session);

async function opened(
  plan: Plan,
  session: Session,
  name: string,
  options: Partial<RenderOptions>,
  origin: Pick<Origin, 'takeId' | 'unasked'>,
  help: Options,
): Promise<void> {
  const { file } = await simulatedTake(plan, options, help);
  const simulation = {
    seed: options.seed ?? SEED,
    phrase:
      options.take === undefined || options.take === 'music'
        ? (options.phrase ?? '')
        : options.take,
    sampleRateHz: options.sampleRateHz ?? RATE_HZ,
  };
  const wav = new File([file], `${name}.wav`, { type: 'audio/wav', lastModified: 0 });
  await openRecordings(session, [{ file: wav, handle: null }], { simulation, ...origin });
}

/** Makes what the planned microphones would record, and opens it like a recording. */
export async function simulateHere(kind: Simulated, help: Options = {}): Promise<void> {
  const { session } = sessionStore.getState();
  if (!session) return;
  const options = {
    ...SIMULATED[kind].options,
    seed: SEED,
    phrase: PHRASE_NAMES[0],
    sampleRateHz: RATE_HZ,
  };
  await opened(planOf(session), session, `Simulated, ${SIMULATED[kind].name}`, options, {}, help);
}

const isKind = (phrase: string): phrase is Simulated => Object.hasOwn(SIMULATED, phrase);

/**
 * The same take once more: of the plan of then, by the same seed it is the same to the sample.
 * @param unasked nobody asked for it: what is looked at stays
 */
export async function simulateAgain(
  take: Take,
  unasked: boolean,
  help: Options = {},
): Promise<void> {
  const { session } = sessionStore.getState();
  if (!session || !take.simulation) return;
  const { seed, phrase, sampleRateHz } = take.simulation;
  const known = PHRASE_NAMES.find((name) => name === phrase);
  const options = {
    ...(isKind(phrase) ? SIMULATED[phrase].options : { take: 'music' as const }),
    ...(known && { phrase: known }),
    seed,
    sampleRateHz,
  };
  await opened(
    await planOfTake(session, take),
    session,
    take.name || 'Simulated',
    options,
    { takeId: take.id, unasked },
    help,
  );
}
