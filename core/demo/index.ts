import type { Session } from '../session';
import { choirDemo } from './choir';
import { keyboardDemo } from './keyboard';
import { nonetDemo } from './nonet';

export { DEMO_ID, demoSession } from './plain-nonet';

/** Demo sessions of different kinds; the first is the one that the demo opens. */
export function demoSessions(now: string): Session[] {
  return [nonetDemo(now), choirDemo(now), keyboardDemo(now)];
}
