import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { LETTERS, ofKind } from '../../core/soundcheck';
import { placeText } from '../../core/audio/measure/readings';
import { formatNumber, formatSigned } from '../../core/units';
import { listeningStore } from '../audio/listening';
import { togglePlay } from '../audio/actions';
import { Working } from '../bench/asked';
import { benchOf, benchStore } from '../bench/recordings';
import { secondsOf } from '../bench/view';
import { enter } from '../document/journals';
import { useSession } from '../document/use-session';
import { BlindRun, type Running } from './blind-run';
import { BlindSetUp } from './blind-set-up';
import {
  areAlike,
  chooseCompared,
  comparableBlend,
  comparableOption,
  comparableRecording,
  comparedStore,
  linesOf,
  type Comparable,
} from './compared';
import { useOptions, usePlansOf } from './data';
import { useFirstOption } from './first-option';
import { HeardNotes } from './heard-notes';
import { RecordingsHere } from './recordings-here';
import { RoundList } from './round-list';
import { useLetterKeys } from '../view/letter-keys';
import { useAtEngine, type AtEngine } from './use-heard';
import { useMade, useMatching, type Matching, type Passage } from './use-sounds';

const NONE: readonly string[] = [];
/** More at once nobody holds apart. */
const MOST = 8;

/** Everything that can be compared, and what of it is chosen, in the order of its letters. */
function useChosen() {
  const session = useSession();
  const options = useOptions();
  const plans = usePlansOf(options);
  const { open } = useStore(benchStore, ({ of }) => benchOf(of, session.id));
  const keys = useStore(comparedStore, ({ of }) => of[session.id] ?? NONE);
  const blends = useMemo(
    () => ofKind({ log: session.log }, 'blend').flatMap(({ standing }) => standing ?? []),
    [session.log],
  );
  const all = useMemo(
    () => [
      ...options.map((option) => comparableOption(session, option)),
      ...open.map((recording) => comparableRecording(session, recording)),
      ...blends.map((blend) => comparableBlend(session, blend)),
    ],
    [session, options, open, blends],
  );
  const chosen = useMemo(
    () => keys.flatMap((key) => all.find(({ id }) => id === key) ?? []),
    [keys, all],
  );
  // Another version under the same name is read before anything is made of it.
  return { all, chosen, reading: plans.busy };
}

interface ChoiceProps {
  all: readonly Comparable[];
  chosen: readonly Comparable[];
}

/** What is held against what. */
function Choice({ all, chosen }: ChoiceProps) {
  const { id: session } = useSession();
  const toggle = (id: string): void => {
    const ids = chosen.map((one) => one.id);
    chooseCompared(session, ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id]);
  };
  return (
    <fieldset aria-label="What is compared" className="min-w-0">
      <legend className="pb-1 text-[15px]">What is compared</legend>
      {all.map(({ id, name }) => {
        const place = chosen.findIndex((one) => one.id === id);
        return (
          <label key={id} className="flex min-w-0 items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={place >= 0}
              disabled={place < 0 && chosen.length >= MOST}
              onChange={() => toggle(id)}
            />
            <span className="w-5 shrink-0 font-semibold">{place >= 0 ? LETTERS[place] : ''}</span>
            <span className="min-w-0 truncate" title={name}>
              {name}
            </span>
          </label>
        );
      })}
      {chosen.length >= MOST && (
        <p className="text-muted text-[12.5px]">Up to {MOST} at once: nobody holds more apart.</p>
      )}
    </fieldset>
  );
}

interface PassageProps {
  common: readonly [number, number];
  passage: Passage;
  set: (passage: Passage | null) => void;
}

const LEAST_S = 1;

/** The stretch that goes round. */
function PassageFields({ common, passage, set }: PassageProps) {
  const [texts, setTexts] = useState<{ from: string; to: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const shown = texts ?? { from: placeText(passage.fromS), to: placeText(passage.toS) };
  const take = (): void => {
    if (!texts) return;
    const [from, to] = [secondsOf(texts.from), secondsOf(texts.to)];
    const words = `allowed: two times from ${placeText(common[0])} to ${placeText(common[1])}, at least ${LEAST_S} s apart, such as 0:05 and 0:12.5`;
    if (from === null || to === null || to - from < LEAST_S) return setProblem(words);
    if (from < common[0] - 1e-3 || to > common[1] + 1e-3) return setProblem(words);
    setProblem(null);
    setTexts(null);
    set({ fromS: from, toS: to });
  };
  const field = (name: 'from' | 'to', label: string) => (
    <label className="flex items-center gap-2">
      <span className="text-muted">{label}</span>
      <input
        className="input input-sm w-28"
        aria-invalid={problem !== null}
        value={shown[name]}
        onChange={(event) => setTexts({ ...shown, [name]: event.currentTarget.value })}
        onBlur={take}
        // Then letters are letters again, and not typed.
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  );
  return (
    <div role="group" aria-label="Passage" className="pb-2">
      <div className="flex flex-wrap items-center gap-3">
        {field('from', 'Passage from')}
        {field('to', 'to')}
        <button
          className="btn btn-sm btn-ghost"
          onClick={() => {
            setTexts(null);
            setProblem(null);
            set(null);
          }}
        >
          All of it
        </button>
      </div>
      {problem !== null && (
        <p role="alert" className="text-error text-[12.5px]">
          Passage: {problem}
        </p>
      )}
    </div>
  );
}

interface OpenProps {
  chosen: readonly Comparable[];
  matching: Matching;
  at: AtEngine;
}

/** Each under its letter, with what was done to its loudness. */
function Letters({ chosen, matching, at }: OpenProps) {
  const silent = useStore(listeningStore, ({ state }) => state === 'silent');
  const problem = useStore(listeningStore, (state) => state.problem);
  const [by, setBy] = useState('');
  const letters = useMemo(() => [...LETTERS.slice(0, chosen.length)], [chosen.length]);
  const hear = (letter: string): void => at.hear(chosen[LETTERS.indexOf(letter)]?.id ?? '');
  useLetterKeys(letters, hear);
  const { residualLu } = matching;
  const heardNow = chosen.find(({ id }) => id === at.heard);
  return (
    <section aria-label="Listen" className="pb-4">
      {problem !== null && (
        <p role="alert" className="text-error pb-2">
          {problem}
        </p>
      )}
      <div className="flex flex-col gap-1">
        {chosen.map(({ id, name }, i) => {
          const { loudness, trimDb } = matching.of[i] ?? { loudness: null, trimDb: null };
          const letter = LETTERS[i] ?? '';
          return (
            <div key={id} className="flex flex-wrap items-center gap-3">
              <button
                className={`btn w-14 ${at.heard === id && !silent ? 'btn-neutral' : ''}`}
                aria-pressed={at.heard === id && !silent}
                aria-label={`Hear ${letter}`}
                title={`Key ${letter}`}
                onClick={() => at.hear(id)}
              >
                {letter}
              </button>
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <span className="text-muted text-[12.5px] tabular-nums">
                {trimDb === null
                  ? 'silent in this passage'
                  : `${formatNumber(loudness, 1)} LUFS, ${formatSigned(trimDb, 1)} dB to one loudness`}
              </span>
            </div>
          );
        })}
      </div>
      <div className="flex flex-wrap items-center gap-3 pt-2">
        <button className="btn btn-sm" onClick={() => void togglePlay()}>
          {silent ? 'Play' : 'Stop'}
        </button>
        {heardNow && (
          <input
            className="input input-sm w-36"
            aria-label="Who prefers it"
            placeholder="who says it"
            maxLength={200}
            value={by}
            onChange={(event) => setBy(event.currentTarget.value)}
          />
        )}
        {heardNow && (
          <button
            className="btn btn-sm"
            onClick={() =>
              enter('log', {
                ...{ kind: 'vote' as const, by: by.trim(), round: '', text: '', blind: false },
                ...{ letters: [], answers: [], finished: true },
                among: chosen.map(({ id }) => id),
                choice: heardNow.id,
              })
            }
          >
            {by.trim() === '' ? 'I prefer' : `${by.trim()} prefers`}{' '}
            {LETTERS[chosen.indexOf(heardNow)]}
          </button>
        )}
        <p role="status" aria-label="Loudness" className="text-muted text-[12.5px]">
          {residualLu === null
            ? 'One of them is silent here: it cannot be brought to the loudness of the others.'
            : `At one loudness: ${formatNumber(residualLu, 2)} LU apart at the most, measured over the passage.`}
        </p>
      </div>
      {heardNow && <HeardNotes key={heardNow.id} of={heardNow.id} name={heardNow.name} />}
    </section>
  );
}

/** What to do where there is nothing to compare yet. */
function Nothing() {
  const session = useSession();
  const { done, begin } = useFirstOption();
  return (
    <>
      <p className="text-muted max-w-[72ch] pb-3">
        Nothing to compare yet. Options of the diary can be heard as the planned microphones would
        record them; recordings that are open on the Bench stand here as well, or are opened here.
      </p>
      <button
        className="btn btn-sm btn-primary"
        disabled={done !== null || session.sources.length === 0}
        onClick={begin}
      >
        {done === null ? 'Simulate this plan' : `Being made: ${Math.round(100 * done)} %`}
      </button>
    </>
  );
}

/** Options and recordings at one place and at one loudness, by letters; openly, then blind. */
export function ComparePage() {
  const session = useSession();
  const { all, chosen, reading } = useChosen();
  const [running, setRunning] = useState<Running | null>(null);
  const [own, setOwn] = useState<Passage | null>(null);
  const made = useMade(reading ? NOTHING : chosen);
  const value = made.busy ? null : made.value;
  const alike = areAlike(chosen);
  const lines = useMemo(() => (value ? linesOf(value.sounds, alike) : null), [value, alike]);
  const common = lines?.commonS ?? null;
  const passage = useMemo((): Passage | null => {
    if (!common) return null;
    const [from, to] = common;
    if (own && own.fromS >= from - 1e-3 && own.toS <= to + 1e-3) return own;
    return to > from ? { fromS: from, toS: to } : null;
  }, [common, own]);
  const matched = useMatching(value, lines, passage);
  const matching = matched.busy ? null : matched.value;
  const names = chosen.map(({ name }, i) =>
    running ? 'hidden: somebody listens blind' : `${LETTERS[i]}, ${name}`,
  );
  const at = useAtEngine({
    ...{ made: value, lines, matching, passage, names },
    round: running ? `${running.round} ${running.by}` : '',
  });
  if (running) {
    return (
      <BlindRun
        key={`${running.round} ${running.by}`}
        running={running}
        at={at}
        end={() => setRunning(null)}
      />
    );
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_20rem] gap-x-8 max-lg:grid-cols-1">
      <div className="min-w-0">
        {all.length === 0 && <Nothing />}
        {chosen.length === 0 && all.length > 0 && (
          <p className="text-muted pb-4">Choose what is compared: two or more.</p>
        )}
        <Working
          state={made}
          what="What is compared is made"
          cancel={() => chooseCompared(session.id, [])}
        >
          {value && common && !passage && (
            <p role="alert" className="text-error">
              They have no stretch in common: nothing can be heard of all of them at one place.
            </p>
          )}
          {value && common && passage && (
            <>
              <PassageFields key={common.join()} common={common} passage={passage} set={setOwn} />
              <Working
                state={matched}
                what="Its loudness is measured"
                cancel={() => chooseCompared(session.id, [])}
              >
                {matching && <Letters chosen={value.comparables} matching={matching} at={at} />}
              </Working>
            </>
          )}
        </Working>
        {chosen.length > 1 && !alike && (
          <p role="note" className="text-warning pb-2">
            Not one performance, as far as is known: what is heard may be the playing, and not the
            microphones. Say on Takes which of them share one.
          </p>
        )}
        {chosen.length > 1 && alike && (
          <p role="note" className="text-muted pb-2">
            One performance: like for like.
          </p>
        )}
        <RoundList />
      </div>
      <aside aria-label="Set up" className="flex flex-col gap-5 max-lg:order-first max-lg:pb-4">
        {all.length > 0 && <Choice all={all} chosen={chosen} />}
        <RecordingsHere />
        {value && matching && passage && chosen.length > 1 && (
          <BlindSetUp
            chosen={value.comparables}
            matching={matching}
            passage={passage}
            alike={alike}
            begin={setRunning}
          />
        )}
      </aside>
    </div>
  );
}

const NOTHING: readonly Comparable[] = [];
