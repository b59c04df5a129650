import { PHRASE_NAMES } from '../../core/audio/players/score';
import { USUAL_RENDER } from '../../core/audio/render/options';
import { takeState } from '../../core/rig';
import { optionOfTake, optionsOf, type Option } from '../../core/soundcheck';
import { standing, type Plan, type Take } from '../../core/session';
import { simulatedTake } from '../audio/simulated';
import { enter } from '../document/journals';
import { sessionStore } from '../document/session-store';
import type { Options } from '../workers/run';

/** Everybody plays the same, every time: simulations of any option are one performance. */
export const SIMULATION = {
  seed: USUAL_RENDER.seed,
  phrase: PHRASE_NAMES[0],
  sampleRateHz: USUAL_RENDER.sampleRateHz,
} as const;
export const SIMULATED_PERFORMANCE = `simulated ${SIMULATION.phrase}`;

/** Microphones hear the same wherever their faders stand: blends of one plan are one take. */
const unmixed = (plan: Plan): Plan => ({
  ...plan,
  arrays: plan.arrays.map((array) => ({
    ...array,
    mix: { ...array.mix, faderDb: 0, mute: false, capsules: [] },
  })),
});

/** What the microphones of a plan would record. */
export const simulationOf = (plan: Plan, help: Options = {}): Promise<{ file: Blob }> =>
  simulatedTake(unmixed(plan), { take: 'music', ...SIMULATION }, help);

const isSimulation = ({ simulation }: Take): boolean =>
  simulation !== null &&
  simulation.seed === SIMULATION.seed &&
  simulation.phrase === SIMULATION.phrase &&
  simulation.sampleRateHz === SIMULATION.sampleRateHz;

/** The number that the next take has. */
export const nextNumber = (takes: readonly Take[]): number =>
  1 + Math.max(0, ...standing(takes).map(({ number }) => number));

/** Simulates an option, and enters it as a take of it. */
export async function simulateOption(option: Option, plan: Plan, help: Options): Promise<void> {
  await simulationOf(plan, help);
  const { session } = sessionStore.getState();
  if (!session) return;
  const options = optionsOf(session);
  const known = standing(session.takes).some(
    (take) => isSimulation(take) && optionOfTake(options, take)?.key === option.key,
  );
  if (known) return;
  enter('takes', {
    by: '',
    number: nextNumber(session.takes),
    name: `Simulated, option ${option.letter}`,
    comment: '',
    option: option.key,
    version: option.entry.version,
    performance: SIMULATED_PERFORMANCE,
    files: [],
    simulation: { ...SIMULATION },
    state: takeState(plan),
  });
}
