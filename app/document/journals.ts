import { newId } from './new-id';
import { append } from './session-store';

/** Entries for the journals of the open session; each is saved by itself. */

const made = (links: { strikes?: string; amends?: string } = {}) => ({
  id: newId(),
  at: new Date().toISOString(),
  strikes: '',
  amends: '',
  ...links,
});

/** Somebody has read a caution. */
export function acknowledge(code: string, name: string): void {
  append({ journal: 'acknowledgements', entry: { ...made(), code, name } });
}

/** Takes back that it was read; both stay on record. */
export function takeBackReading(id: string, code: string, name: string): void {
  append({ journal: 'acknowledgements', entry: { ...made({ strikes: id }), code, name } });
}
