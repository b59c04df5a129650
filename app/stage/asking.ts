import type { LogEntry } from '../../core/session';
import { settingSentence, type Setting } from '../../core/stage';
import { enter, strike } from '../document/journals';
import { sessionStore } from '../document/session-store';
import { show } from './booth';

/** What the booth asks the hall: an entry of the log each, shown on the stage at once. */

type Instruction = Extract<LogEntry, { kind: 'instruction' }>;

function asked(what: Pick<Instruction, 'text' | 'of' | 'to' | 'set' | 'tap'>): void {
  enter('log', { kind: 'instruction', by: '', ...what });
  show();
}

/** @param to a device by its name; empty: all of them */
export function askSetting(set: Setting, to: string): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  asked({ text: settingSentence(session, set), of: [set.arrayId], to, set, tap: null });
}

export const askWords = (text: string, to: string): void =>
  asked({ text, of: [], to, set: null, tap: null });

/** @param name of the microphone on that input */
export const askTap = (input: number, name: string, to: string): void =>
  asked({ text: name, of: [], to, set: null, tap: input });

/** What came of a tap, as it was heard here. */
export function noteTap(id: string, heard: boolean, text: string): void {
  enter('log', {
    ...{ kind: 'answer', by: '', to: id, text, value: null },
    came: heard ? 'heard' : 'not heard',
  });
  show();
}

export function takeBackAsked(id: string): void {
  strike('log', id);
  show();
}
