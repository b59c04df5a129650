import { mixSchema, type MicArray, type Session } from '../session/schema';

/** The mixes of arrays, by their ids. */
export type Mixes = Readonly<Record<string, MicArray['mix']>>;

/** Faders, mutes and strips of every array of a plan, by the array’s id. */
export const mixesOf = ({ arrays }: Pick<Session, 'arrays'>): Mixes =>
  Object.fromEntries(arrays.map(({ id, mix }) => [id, structuredClone(mix)]));

/** What a kept blend says; what is no mix in it is left out. @param strips of its entry */
export const readMixes = (strips: Readonly<Record<string, unknown>>): Mixes =>
  Object.fromEntries(
    Object.entries(strips).flatMap(([id, kept]) => {
      const read = mixSchema.safeParse(kept);
      return read.success ? [[id, read.data]] : [];
    }),
  );
