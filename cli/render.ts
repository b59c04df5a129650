import { placesFrom } from './places';
import { PHRASE_NAMES, PLAYER_NAMES } from '../core/audio/players';
import {
  bestEngine,
  MOST_CLAPS,
  plainEngine,
  planTake,
  TAKE_KINDS,
  takeBytes,
  takeFile,
  USUAL_RENDER,
  type RenderOptions,
} from '../core/audio/render';
import { MOST_CHANNELS } from '../core/audio';
import type { Session } from '../core/session';
import { parseArgs } from 'node:util';
import { Checker } from './checker';
import { joinNegatives } from './options';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

const TEXT = { type: 'string' } as const;
const OPTIONS = {
  out: TEXT,
  seconds: TEXT,
  rate: TEXT,
  seed: TEXT,
  phrase: TEXT,
  sound: TEXT,
  take: TEXT,
  claps: TEXT,
  array: { ...TEXT, multiple: true },
  player: { ...TEXT, multiple: true },
  dry: { type: 'boolean' },
  plain: { type: 'boolean' },
} as const;

function read(args: readonly string[]) {
  try {
    const { values, positionals } = parseArgs({
      args: joinNegatives(args),
      options: OPTIONS,
      allowPositionals: true,
      strict: true,
    });
    const [file, more] = positionals;
    if (file === undefined || more !== undefined) throw new Usage('render takes one FILE');
    if (values.out === undefined) throw new Usage('render needs --out FILE');
    return { ...values, file, out: values.out };
  } catch (error) {
    throw error instanceof Usage
      ? error
      : new Usage(error instanceof Error ? error.message : String(error));
  }
}

/** Things by their name or id; what is none is said with what there is. */
function chosen(
  option: string,
  wanted: readonly string[] | undefined,
  things: readonly { id: string; name: string }[],
  check: Checker,
): string[] | null {
  if (wanted === undefined) return null;
  return wanted.flatMap((text) => {
    const found = things.filter(({ id, name }) => id === text || name === text);
    if (found.length === 0) {
      const names = things.slice(0, 12).map(({ name }) => JSON.stringify(name));
      check.errors.push(
        `--${option}: ${JSON.stringify(text)}; allowed: ${names.join(', ')}${things.length > 12 ? ', …' : ''}`,
      );
    }
    return found.map(({ id }) => id);
  });
}

function optionsFrom(
  given: ReturnType<typeof read>,
  session: Session,
  check: Checker,
): RenderOptions {
  const number = (
    name: 'seconds' | 'rate' | 'seed',
    usual: number,
    min: number,
    max: number,
    unit: string,
  ) => (given[name] === undefined ? usual : check.number(name, given[name], { min, max, unit }));
  return {
    seconds: number('seconds', USUAL_RENDER.seconds, 1, 600, 's'),
    sampleRateHz: Math.round(number('rate', USUAL_RENDER.sampleRateHz, 8000, 192_000, 'Hz')),
    seed: Math.floor(number('seed', USUAL_RENDER.seed, 0, 4_294_967_295, '')),
    phrase:
      given.phrase === undefined
        ? USUAL_RENDER.phrase
        : (check.oneOf('phrase', given.phrase, PHRASE_NAMES) ?? USUAL_RENDER.phrase),
    sound: given.sound === undefined ? null : check.oneOf('sound', given.sound, PLAYER_NAMES),
    dry: given.dry ?? false,
    take:
      given.take === undefined
        ? USUAL_RENDER.take
        : (check.oneOf('take', given.take, TAKE_KINDS) ?? USUAL_RENDER.take),
    claps: given.claps === undefined ? null : placesFrom('claps', given.claps, MOST_CLAPS, check),
    arrayIds: chosen('array', given.array, session.arrays, check),
    playerIds: chosen('player', given.player, session.sources, check),
  };
}

/** `render FILE --out take.wav`: what the planned microphones would record, as a file marked as simulation. */
export async function renderCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const given = read(args);
  const loaded = await loadSession(given.file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  const { session } = loaded;
  const check = new Checker();
  const options = optionsFrom(given, session, check);
  if (check.errors.length > 0) return failed(check.errors);
  const engine = given.plain ? plainEngine : await bestEngine();
  const plan = planTake(session, options, undefined, engine);
  if (!plan.ok) return failed([`${given.file}: ${plan.message}`]);
  const { channels, frames, fullScaleDb, notes, turns } = plan.value;
  if (channels.length > MOST_CHANNELS) {
    return failed([
      `${channels.length} channels; allowed: up to ${MOST_CHANNELS} in one file; choose arrays by --array`,
    ]);
  }
  try {
    await machine.write(
      given.out,
      takeFile(session, plan.value, {
        engine,
        progress: (fraction) => machine.progress('Rendering', fraction),
      }),
    );
  } catch (error) {
    return failed([`--out: ${given.out} cannot be written (${(error as Error).message})`]);
  }
  return {
    ...succeeded({
      file: given.out,
      simulation: true,
      path: engine.kind,
      ...options,
      seconds: frames / options.sampleRateHz,
      frames,
      bytes: takeBytes(plan.value),
      fullScaleDb,
      channels: channels.map(({ name }) => name),
      ...(turns.length > 0 && { turns }),
      notes,
    }),
    errors: notes,
  };
}
