/** An expected outcome as a value: either it worked, or it says why not. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; message: string };

export const done = <T>(value: T): Outcome<T> => ({ ok: true, value });
export const refused = (message: string): { ok: false; message: string } => ({
  ok: false,
  message,
});
