import { useEffect, useId, useRef, useState } from 'react';
import { planChannels, takeSize } from '../../core/audio/render/size';
import { TAKE_KINDS, type TakeKind } from '../../core/audio/render/take-kinds';
import { PHRASE_NAMES, type PhraseName } from '../../core/audio/players/score';
import type { Session } from '../../core/session';
import { formatNumber } from '../../core/units';
import { planOf } from '../document/plan';
import { useSession } from '../document/use-session';
import { download, fileName } from '../keeping/files';
import { panelStore } from '../view/panels';
import type { Tasks } from '../workers/tasks';
import { simulatedTake } from '../audio/simulated';
import { useAnswer, type Answering } from '../workers/use-task';

const LENGTHS_S = [10, 30, 60, 180, 600];
const RATES_HZ = [48_000, 96_000];

const TAKE_WORDS: Readonly<Record<TakeKind, { name: string; about: string }>> = {
  music: { name: 'music', about: '' },
  'roll call': {
    name: 'roll call',
    about:
      'Everybody in turn alone: as many knocks as the number in the list, then a little music. Above ten the tens come first, and then the rest.',
  },
  claps: {
    name: 'claps',
    about: 'One clap from every place, and the silence of the room after it.',
  },
  'interrupted noise': {
    name: 'interrupted noise',
    about: 'Pink noise from every place until the room is full, and its decay.',
  },
  sweep: { name: 'sweep', about: 'A sweep from 20 Hz to 20 kHz from every place, and its decay.' },
};

/** "0:07" */
const timeText = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

type Taken = Awaited<ReturnType<typeof simulatedTake>>;

const taken: Answering<Tasks['render']['ask'], Taken> = ({ session, options }, help) =>
  simulatedTake(session, options, help);

interface ChoiceProps<T extends string | number> {
  label: string;
  current: T;
  options: readonly T[];
  name: (option: T) => string;
  set: (option: T) => void;
  busy: boolean;
}

function Choice<T extends string | number>(props: ChoiceProps<T>) {
  const { label, current, options, name, set, busy } = props;
  return (
    <label className="flex items-center justify-between gap-4 py-1">
      <span className="text-muted">{label}</span>
      <select
        className="select select-sm w-44"
        disabled={busy}
        value={String(current)}
        onChange={(event) => {
          const chosen = options.find((option) => String(option) === event.currentTarget.value);
          if (chosen !== undefined) set(chosen);
        }}
      >
        {options.map((option) => (
          <option key={option} value={option}>
            {name(option)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What was made, and who is heard when. */
function Made({ value }: { value: Taken }) {
  return (
    <>
      <p role="status" aria-label="Made">
        {value.kept ? 'Kept from before' : 'Made'}; it went to the downloads.
        {value.path === 'plain' && ' This browser made it the slow way.'}
        {value.notes.map((note) => ` Left out: ${note}.`)}
      </p>
      {(value.turns ?? []).length > 0 && (
        <ol
          aria-label="Turns"
          className="max-h-40 columns-2 gap-6 overflow-y-auto text-[12.5px]"
          tabIndex={0}
        >
          {value.turns?.map(({ number, name, fromS }) => (
            <li key={number}>
              <span className="text-muted inline-block w-9">{timeText(fromS)}</span>
              {number} {name}
            </li>
          ))}
        </ol>
      )}
    </>
  );
}

/** Why nothing can be recorded; null where something can. */
function problemOf({ sources }: Session, channels: number): string | null {
  if (channels === 0) return 'No array is in use: there is nothing that would record.';
  if (sources.length === 0) return 'There are no players yet: nothing would be heard.';
  if (channels <= 64) return null;
  return `${channels} channels; allowed: up to 64 in one file. Take some arrays out of use.`;
}

/** What it is, and what it does not claim. */
const About = () => (
  <p className="text-muted pb-2 text-[12.5px]">
    What every planned microphone would record, one channel each. Nobody played: place, width, room
    and mono are those of the plan; the timbre of instruments and microphones is not claimed. Begin
    to listen at a low level. Takes are kept as long as there is room, and made again when they are
    not.
  </p>
);

/** What the planned microphones would record, as a file: its size first, then made beside the page. */
export default function SimulatedTake() {
  const session = useSession();
  const dialog = useRef<HTMLDialogElement>(null);
  const heading = useId();
  const [seconds, setSeconds] = useState(30);
  const [sampleRateHz, setRate] = useState(48_000);
  const [phrase, setPhrase] = useState<PhraseName>('chorale');
  const [take, setTake] = useState<TakeKind>('music');
  const [dry, setDry] = useState(false);
  // Stays as it was asked, whatever is changed meanwhile for the next one.
  const [ask, setAsk] = useState<Tasks['render']['ask'] | null>(null);
  const { value, busy, error, progress } = useAnswer(ask, taken);
  useEffect(() => dialog.current?.showModal(), []);
  useEffect(() => {
    if (!value || busy) return;
    download(fileName(session.title, 'simulated.wav'), value.file);
  }, [value, busy, session.title]);
  const channels = planChannels(session);
  const problem = problemOf(session, channels);
  const inTurns = take !== 'music';
  const mebibytes = takeSize(channels, seconds, sampleRateHz) / 2 ** 20;
  return (
    <dialog
      ref={dialog}
      aria-labelledby={heading}
      onClose={() => panelStore.setState({ takeOpen: false })}
      className="border-hairline bg-base-200 text-base-content m-auto w-[460px] rounded-[3px] border p-5 backdrop:bg-black/30"
    >
      <h2 id={heading} className="pb-2 text-[17px]">
        Simulated take
      </h2>
      <About />
      <Choice
        label="What is recorded"
        current={take}
        options={TAKE_KINDS}
        name={(kind) => TAKE_WORDS[kind].name}
        set={setTake}
        busy={busy}
      />
      {inTurns && <p className="text-muted pb-1 text-[12.5px]">{TAKE_WORDS[take].about}</p>}
      {!inTurns && (
        <Choice
          label="Length"
          current={seconds}
          options={LENGTHS_S}
          name={(s) => (s < 60 ? `${s} s` : `${s / 60} min`)}
          set={setSeconds}
          busy={busy}
        />
      )}
      <Choice
        label="Sample rate"
        current={sampleRateHz}
        options={RATES_HZ}
        name={(hz) => `${hz / 1000} kHz`}
        set={setRate}
        busy={busy}
      />
      {(take === 'music' || take === 'roll call') && (
        <Choice
          label="Everybody plays"
          current={phrase}
          options={PHRASE_NAMES}
          name={(name) => name.replace('-', ' ')}
          set={setPhrase}
          busy={busy}
        />
      )}
      <label className="flex items-center gap-2 py-1">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={dry}
          disabled={busy}
          onChange={(event) => setDry(event.currentTarget.checked)}
        />
        Direct sound only, without the room
      </label>
      <p className="py-2" role="status" aria-label="Size">
        {channels} {channels === 1 ? 'channel' : 'channels'}, 24 bits,{' '}
        {inTurns
          ? 'as long as everybody’s turn takes'
          : `${formatNumber(mebibytes, mebibytes < 10 ? 1 : 0)} MiB`}
      </p>
      {problem !== null && <p role="alert">{problem}</p>}
      {error !== null && <p role="alert">Not made: {error}</p>}
      {busy && (
        <progress
          aria-label="Rendering"
          className="progress my-2 w-full"
          value={progress}
          max={1}
        />
      )}
      {!busy && value && <Made value={value} />}
      <div className="flex justify-end gap-2 pt-3">
        <button
          className="btn btn-sm"
          onClick={() => (busy ? setAsk(null) : dialog.current?.close())}
        >
          {busy ? 'Cancel' : 'Close'}
        </button>
        <button
          className="btn btn-sm btn-primary"
          disabled={busy || problem !== null}
          onClick={() =>
            setAsk({
              session: planOf(session),
              options: { seconds, sampleRateHz, phrase, take, dry },
            })
          }
        >
          Render
        </button>
      </div>
    </dialog>
  );
}
