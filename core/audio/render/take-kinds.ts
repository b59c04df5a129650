/** What is recorded: everybody playing together, or one after another with the room's silence between. */
export const TAKE_KINDS = ['music', 'roll call', 'claps', 'interrupted noise', 'sweep'] as const;
export type TakeKind = (typeof TAKE_KINDS)[number];

/** Takes of signals: from one place after another, for measuring the room. */
export type SignalTake = Exclude<TakeKind, 'music' | 'roll call'>;

/** Whose turn begins when. */
export interface NamedTurn {
  sourceId: string;
  name: string;
  /** from 1 on: so many knocks name it in a roll call */
  number: number;
  fromS: number;
}
