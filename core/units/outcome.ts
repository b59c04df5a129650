/** An expected outcome as a value: either it worked, or it says why not. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; message: string };

/** It worked, with this value. */
export const done = <T>(value: T): Outcome<T> => ({ ok: true, value });
/** It did not, for a reason that says what is allowed. */
export const refused = (message: string): { ok: false; message: string } => ({
  ok: false,
  message,
});
