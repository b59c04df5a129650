import { useState } from 'react';
import { optionsOf } from '../../core/soundcheck';
import { messageOf } from '../bench/recordings';
import { planOf } from '../document/plan';
import { sessionStore } from '../document/session-store';
import { useSession } from '../document/use-session';
import { notify, notifyFailure } from '../view/notices';
import { chooseCompared } from './compared';
import { addOption } from './data';
import { simulateOption } from './simulating';

/** The plan as it stands becomes the first option, and is simulated: everything can be tried on the day before. */
export function useFirstOption(): { done: number | null; begin: () => void } {
  const session = useSession();
  const [done, setDone] = useState<number | null>(null);
  const begin = (): void => {
    const key = addOption(planOf(session), null, { name: 'the plan', why: 'To begin with.' });
    if (key === '') return;
    const now = sessionStore.getState().session;
    const option = now && optionsOf(now).find((one) => one.key === key);
    if (!option) return;
    chooseCompared(now.id, [key]);
    setDone(0);
    simulateOption(option, planOf(now), { onProgress: setDone })
      .then(() => notify(`Option ${option.letter} is simulated: it can be heard on Compare.`))
      .catch((error: unknown) =>
        notifyFailure(
          new Error(`Option ${option.letter} is in the diary, not simulated: ${messageOf(error)}`),
        ),
      )
      .finally(() => setDone(null));
  };
  return { done, begin };
}
