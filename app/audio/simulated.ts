import type { RenderOptions } from '../../core/audio/render/options';
import type { Plan } from '../../core/session';
import { keepTake, keptTake, takeKey, type KeptTake } from '../keeping/simulations';
import { run, type Options } from '../workers/run';

/** A simulated take: the kept one of just this plan, or a new one. */
export async function simulatedTake(
  session: Plan,
  options: Partial<RenderOptions>,
  help: Options = {},
): Promise<KeptTake & { kept: boolean }> {
  const key = await takeKey(session, options);
  const known = await keptTake(key);
  help.signal?.throwIfAborted();
  if (known) return { ...known, kept: true };
  const made = await run('render', { session, options }, help);
  await keepTake(key, made);
  return { ...made, kept: false };
}
