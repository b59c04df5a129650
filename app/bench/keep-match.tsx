import { useState } from 'react';
import type { PairMatch } from '../../core/audio/measure/pair';
import { assignKit } from '../../core/kit';
import { inputOf } from '../../core/recorded';
import { BOUNDS, type Microphone } from '../../core/session';
import { clamp } from '../../core/units';
import { edit } from '../document/session-store';
import { usePlan } from '../document/use-session';
import { notify } from '../view/notices';
import type { OpenRecording } from './recordings';

/** The entry of the kit that a channel's microphone comes from, where the plan says. */
function useEntryOf(recording: OpenRecording, channel: number): string {
  const plan = usePlan();
  const input = inputOf(plan, recording.binding, channel);
  if (!input) return '';
  const there = assignKit(plan).capsules.filter(({ arrayId }) => arrayId === input.arrayId);
  return there[input.capsule]?.microphoneId ?? '';
}

/** "pair 3", where two are kept already */
function nextName({ matches }: Pick<Microphone, 'matches'>): string {
  const taken = new Set(matches.map(({ name }) => name));
  let number = 1;
  while (taken.has(`pair ${number}`)) number += 1;
  return `pair ${number}`;
}

interface Props {
  recording: OpenRecording;
  /** the channel whose microphone is the second of the pair */
  channel: number;
  match: PairMatch;
}

/** Puts a match to the microphones of the kit that it was measured of. */
export function KeepMatch({ recording, channel, match }: Props) {
  const { kit } = usePlan();
  const usual = useEntryOf(recording, channel);
  const [chosen, setChosen] = useState<string | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const entry =
    kit.microphones.find(({ id }) => id === (chosen ?? usual)) ?? kit.microphones[0] ?? null;
  if (!entry) {
    return (
      <p className="text-muted pb-2 text-[12.5px]">
        Nothing to keep it with: the kit has no microphones yet.
      </p>
    );
  }
  const name = typed ?? nextName(entry);
  const keep = (): void => {
    const { filters, trimDb, leftDb } = match;
    const { min, max } = BOUNDS.gainDb;
    const called = name.trim() === '' ? nextName(entry) : name.trim();
    edit((draft) => {
      draft.kit.microphones
        .find(({ id }) => id === entry.id)
        ?.matches.push({
          name: called,
          on: new Date().toISOString().slice(0, 10),
          trimDb: clamp(Math.round(trimDb * 100) / 100, min, max),
          leftDb: clamp(leftDb, BOUNDS.headroomDb.min, BOUNDS.headroomDb.max),
          filters: filters.map((filter) => ({ ...filter })),
        });
    });
    setTyped(null);
    notify(`Kept with ${entry.name} as ${called}.`);
  };
  return (
    <form
      aria-label="Keep the match"
      className="flex flex-wrap items-center gap-3 pb-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="text-muted">Keep with</span>
        <select
          className="select select-sm w-auto max-w-64"
          value={entry.id}
          onChange={(event) => setChosen(event.currentTarget.value)}
        >
          {kit.microphones.map(({ id, name: of }) => (
            <option key={id} value={id}>
              {of}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2">
        <span className="text-muted">as</span>
        <input
          className="input input-sm w-32"
          aria-label="What the pair is called"
          value={name}
          maxLength={200}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
      </label>
      <button className="btn btn-sm" type="submit">
        Keep in the kit
      </button>
    </form>
  );
}
