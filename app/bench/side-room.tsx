import { useState } from 'react';
import { plannedRoomLostDb, roomLost } from '../../core/recorded';
import { formatNumber } from '../../core/units';
import { usePlan } from '../document/use-session';
import { useTask } from '../workers/use-task';
import type { Tasks } from '../workers/tasks';
import { stretchText, Working, type PageProps } from './asked';
import { BandBars } from './band-bars';
import { hzText } from './over-time';

interface Props extends PageProps {
  mid: number;
  side: number;
  sideDb: number;
  highPassHz: number | null;
}

/** What of the room mono loses, read where only the room sounds. */
export function RoomInMono({ recording, stretch, mid, side, sideDb, highPassHz }: Props) {
  const plan = usePlan();
  const [ask, setAsk] = useState<Tasks['matched']['ask'] | null>(null);
  const state = useTask('matched', ask);
  const found = state.busy ? null : state.value;
  const planned = plannedRoomLostDb(plan, recording.binding, mid, sideDb);
  const lost = found?.ok ? roomLost(found.value, sideDb, highPassHz) : null;
  return (
    <section aria-label="The room in mono" className="pt-6">
      <h2 className="pb-1 text-[15px]">The room in mono</h2>
      <p className="text-muted max-w-[76ch] pb-2 text-[12.5px]">
        Choose a stretch in which only the room sounds: what rings after a last chord.
        {planned !== null &&
          ` By the plan’s patterns mono loses ${formatNumber(-planned, 1)} dB of a diffuse room.`}
      </p>
      <button
        className="btn btn-sm"
        disabled={!stretch}
        onClick={() => stretch && setAsk({ file: recording.source, pair: [mid, side], ...stretch })}
      >
        Read the room in the stretch
      </button>
      <Working state={state} what="Reading the room" cancel={() => setAsk(null)}>
        {ask && found && !found.ok && <p role="status">Cannot be told: {found.message}.</p>}
        {ask && lost && (
          <div className="max-w-3xl pt-2">
            <p role="status" aria-label="What of the room mono loses" className="font-semibold">
              Of the room from {stretchText(ask)} mono loses {formatNumber(-lost.meanDb, 1)} dB,
              most at {hzText(lost.worst.hz)} Hz: {formatNumber(-lost.worst.db, 1)} dB.
            </p>
            <BandBars
              title="Lost in mono"
              about="By third octave, against the power of left and right together, at the level and the high-pass of the side that are set."
              header={['frequency Hz', 'lost dB']}
              values={lost.bands.map(({ hz, db }) => ({ hz, value: db }))}
              domain={[-12, 0]}
              ticks={[-12, -9, -6, -3, 0]}
              axis="dB"
              bad={(db) => db < -6}
            />
          </div>
        )}
      </Working>
    </section>
  );
}
