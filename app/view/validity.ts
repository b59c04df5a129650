import { createStore } from 'zustand/vanilla';

/** A field of the workbench: of what kind of thing, of which one, and which of its figures. */
export interface FieldRef {
  of: string;
  /** empty where there is only one of the kind */
  id: string;
  field: string;
}

/** A field as a key that tells its parts apart again, whatever characters an id has. */
export type FieldKey = string & { readonly fieldKey: true };

export const fieldKey = (of: string, id: string, field: string): FieldKey =>
  JSON.stringify([of, id, field]) as FieldKey;

export function fieldOf(key: string): FieldRef {
  const [of = '', id = '', field = ''] = JSON.parse(key) as string[];
  return { of, id, field };
}

/** Fields whose typed content is not valid, with what is wrong. */
export const validityStore = createStore<{ invalid: Readonly<Record<string, string>> }>(() => ({
  invalid: {},
}));

export function setInvalid(key: FieldKey, message: string | null): void {
  validityStore.setState(({ invalid }) => {
    if ((invalid[key] ?? null) === message) return {};
    const { [key]: _gone, ...others } = invalid;
    return { invalid: message === null ? others : { ...others, [key]: message } };
  });
}
