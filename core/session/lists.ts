import type { MicArray, Session } from './schema';

/** The arrays that are planned to be put up. */
export const enabledArrays = ({ arrays }: Pick<Session, 'arrays'>): MicArray[] =>
  arrays.filter(({ enabled }) => enabled);

/** Whether all of an array's numbers are known: of a pair without its angle nothing is reckoned. */
export const isKnown = ({ technique, missing }: Pick<MicArray, 'technique' | 'missing'>): boolean =>
  technique.kind !== 'pair' || missing.length === 0;

/** Those that are planned and of which all numbers are known. */
export const knownArrays = (session: Pick<Session, 'arrays'>): MicArray[] =>
  enabledArrays(session).filter(isKnown);

/** Those of them that make the picture. */
export const mainArrays = (session: Pick<Session, 'arrays'>): MicArray[] =>
  enabledArrays(session).filter(({ role }) => role === 'main');

/** The array that leads: the first main one, else the first enabled one, else the first; null without any. */
export const leadingArray = (session: Pick<Session, 'arrays'>): MicArray | null =>
  mainArrays(session)[0] ?? enabledArrays(session)[0] ?? session.arrays[0] ?? null;
