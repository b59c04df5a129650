import { useEffect } from 'react';
import { useStore } from 'zustand';
import { deviceStore, join, say } from './device';
import StagePage from './stage-page';

/** As long as an assistant takes to read, ms. */
const ANSWERS_AFTER_MS = 1500;
/** Every so many cannot be done. */
const CANNOT_EVERY = 4;

/** Answers what is asked by itself, as somebody in the hall would. */
function useAnswers(): void {
  const { document: shown, phase, pending } = useStore(deviceStore);
  const open = shown?.asked.find(
    ({ id, state }) =>
      state === 'open' && !pending.some((one) => one.kind === 'answer' && one.to === id),
  );
  const count = shown?.asked.filter(({ state }) => state !== 'open').length ?? 0;
  const id = open?.id;
  useEffect(() => {
    if (phase === 'code' && deviceStore.getState().why === null && /^#\d{6}$/.test(location.hash)) {
      join(location.hash.slice(1), 'Simulated device');
    }
  }, [phase]);
  useEffect(() => {
    if (id === undefined) return;
    const timer = setTimeout(() => {
      const cannot = count % CANNOT_EVERY === CANNOT_EVERY - 1;
      say({
        ...{ kind: 'answer', to: id, value: null },
        came: cannot ? 'cannot' : 'done',
        text: cannot ? 'The cable is too short.' : '',
      });
    }, ANSWERS_AFTER_MS);
    return () => clearTimeout(timer);
  }, [id, count]);
}

/** A stage device that nobody holds: for tests, and for trying things on the day before. */
export default function SimulatedDevice() {
  useAnswers();
  return (
    <div className="flex h-full flex-col">
      <p role="note" className="bg-info text-info-content px-4 py-1 text-[13px]">
        A simulated device: it answers by itself after a moment, every fourth time that it cannot.
      </p>
      <div className="min-h-0 flex-1">
        <StagePage />
      </div>
    </div>
  );
}
