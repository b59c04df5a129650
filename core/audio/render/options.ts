import type { Vec3 } from '../../units/vector';
import type { PlayerName } from '../players/kinds';
import type { PhraseName } from '../players/score';
import type { TakeKind } from './take-kinds';

/** What is rendered of a session, and how. */
export interface RenderOptions {
  /** 1 … 600 s */
  seconds: number;
  /** 8000 … 192000 Hz */
  sampleRateHz: number;
  phrase: PhraseName;
  /** any whole number: the same gives the same file */
  seed: number;
  /** direct sound alone */
  dry: boolean;
  /** of arrays and players; all of them where it is null */
  arrayIds: readonly string[] | null;
  playerIds: readonly string[] | null;
  /** what every player plays instead of its own kind */
  sound: PlayerName | null;
  /** everybody together for so many seconds, or one after another, each once and as long as it takes */
  take: TakeKind;
  /** places of claps, noise or sweeps instead of the players', m; at most 16; with music: of claps */
  claps: readonly Vec3[] | null;
}

export const USUAL_RENDER: RenderOptions = {
  seconds: 30,
  sampleRateHz: 48_000,
  phrase: 'chorale',
  seed: 1,
  dry: false,
  arrayIds: null,
  playerIds: null,
  sound: null,
  take: 'music',
  claps: null,
};
