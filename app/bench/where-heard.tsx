import { useEffect, useId, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { modelsFor } from '../../core/localisation';
import { LISTENED, type MicArray, type Plan } from '../../core/session';
import { channelsOf, type Place } from '../../core/verdict';
import { setHearing, withEngine } from '../audio/actions';
import { listeningStore } from '../audio/listening';
import { enter, logIndex, strike } from '../document/journals';
import { newId } from '../document/new-id';
import { useSession } from '../document/use-session';
import { forgetHeard, keepHeard, type PlaceEntry } from '../keeping/heard-places';
import { ListenerTable } from '../image-line/your-places';
import { notify, notifyFailure } from '../view/notices';
import { panelStore } from '../view/panels';
import { useTask } from '../workers/use-task';
import { Working, type Seconds } from './asked';
import { sideOf } from './heard';
import { HeardLine } from './heard-line';
import { sideText } from './images';
import { takeOf } from './opening';
import type { OpenRecording } from './recordings';

/** A passage of somebody who is alone. */
export interface Asked {
  at: Seconds;
  who: Place;
}

interface Props {
  recording: OpenRecording;
  plan: Plan;
  passages: readonly Asked[];
  /** left and right are heard as they were recorded */
  heardAll: boolean;
  hearAll: () => void;
  asking: boolean;
  setAsking: (asking: boolean) => void;
}

type Through = (typeof LISTENED)[number];
/** The third way is made by the page. */
const AS_LOUDSPEAKERS: Through = 'headphones, as from loudspeakers';

/** The pair whose two channels these are, or why a place cannot be asked for. */
function pairOf({ recording, plan, passages }: Props): MicArray | string {
  if (recording.info.format.channels !== 2) {
    return 'A place is asked of a recording with two channels, left and right: export the pair alone on Export, and open that.';
  }
  const [one, other] = channelsOf(plan, recording.binding);
  const array = plan.arrays.find(({ id }) => id === one?.arrayId);
  if (!array || other?.arrayId !== one?.arrayId) {
    return 'Both channels must be of one pair: what comes of two is no cue that a model knows.';
  }
  if (array.technique.kind !== 'pair') {
    return 'These channels are not left and right of a pair: decode mid and side first, and open what was exported.';
  }
  return passages.length === 0
    ? 'Nobody is alone yet: say below who is alone in which passage.'
    : array;
}

/** What of the hearing makes an answer worthless. */
function useObstacle({ recording, heardAll }: Props): string | null {
  const { mono, swap, side, state } = useStore(listeningStore);
  if (mono) return 'Mono is on: nobody is anywhere then. Switch it off.';
  if (swap) return 'Left and right are exchanged: switch that off.';
  if (!heardAll || side !== sideOf(recording)) {
    return 'What is heard is not the recording as it is: choose left and right under Hear.';
  }
  return state === 'silent' ? 'It does not sound: press Play again.' : null;
}

/** In an order that tells nothing. */
function shuffled<T>(items: readonly T[]): T[] {
  return items
    .map((item) => [Math.random(), item] as const)
    .sort(([a], [b]) => a - b)
    .map(([, item]) => item);
}

function sound(recording: OpenRecording, at: Seconds): void {
  const wholeS = recording.info.frames / recording.info.format.sampleRateHz;
  void withEngine((engine) => {
    engine.choose(sideOf(recording));
    engine.setRange([at.fromS / wholeS, at.toS / wholeS]);
    engine.seek(at.fromS / wholeS);
    if (listeningStore.getState().state === 'silent') void engine.play();
  });
}

interface RoundProps extends Props {
  array: MicArray;
  by: string;
  through: Through;
}

/** One passage after another, without a name, until all are answered or it is enough. */
function Round(props: RoundProps) {
  const { recording, passages, array, by, through, setAsking } = props;
  const session = useSession();
  const [order] = useState(() => shuffled(passages));
  const [index, setIndex] = useState(0);
  const [shift, setShift] = useState<number | null>(null);
  const obstacle = useObstacle(props);
  const one = order[index];
  const ask = useMemo(
    () => (one ? { file: recording.source, stretch: one.at, channels: [0, 1], against: 0 } : null),
    [recording.source, one],
  );
  const cues = useTask('cues', ask);
  const [cue] = (cues.busy ? null : cues.value) ?? [];
  const usable = cue && cue.levelDb !== null && cue.polarity === 1 ? cue : null;
  useEffect(() => {
    if (one) sound(recording, one.at);
    // A new passage sounds; what becomes known of the recording starts nothing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [one]);
  if (!one) return null;
  const next = (): void => {
    setShift(null);
    if (index + 1 < order.length) setIndex(index + 1);
    else setAsking(false);
  };
  const take = (): void => {
    if (shift === null || obstacle !== null || !usable) return;
    const of = takeOf(session, recording)?.id ?? recording.key;
    const said = {
      ...{ kind: 'place' as const, by: by.trim(), through, shift },
      of: [of, one.who.id],
      name: one.who.name,
      passage: `${recording.files[0]?.reference.fingerprint || recording.key} ${one.at.fromS.toFixed(2)}`,
      levelDb: usable.levelDb ?? 0,
      delayMs: usable.delayMs,
      coincident: array.technique.kind === 'pair' && array.technique.spacingM === 0,
    };
    const id = enter('log', said);
    if (id === '') return;
    const entry: PlaceEntry = {
      ...said,
      ...{ id, at: new Date().toISOString(), strikes: '', amends: '' },
    };
    keepHeard(entry, { session: session.id, title: session.title }).then(
      (problem) => problem !== null && notify(`Not kept in the library: ${problem}.`),
      notifyFailure,
    );
    next();
  };
  return (
    <div role="form" aria-label="Where is it heard">
      <p role="status" aria-label="Passage asked" className="pb-1 text-[15px]">
        Passage {index + 1} of {order.length}: where do you hear it?
      </p>
      <HeardLine shift={shift} say={setShift} take={take} />
      {obstacle !== null && (
        <p role="alert" className="text-error py-1">
          {obstacle}
        </p>
      )}
      <Working state={cues} what="The passage is read" cancel={next}>
        {!usable && (
          <p role="status" className="py-1">
            The two channels do not agree on one who sounds there: go on to the next.
          </p>
        )}
      </Working>
      <div className="flex flex-wrap gap-2 py-2">
        <button
          className="btn btn-sm btn-primary"
          disabled={shift === null || obstacle !== null || !usable}
          onClick={take}
        >
          That is where it is
        </button>
        <button className="btn btn-sm" onClick={() => sound(recording, one.at)}>
          Play again
        </button>
        <button className="btn btn-sm" onClick={next}>
          I cannot tell
        </button>
        <button className="btn btn-sm btn-ghost" onClick={() => setAsking(false)}>
          Enough
        </button>
      </div>
    </div>
  );
}

/** What was answered of this recording, beside what every model says of the same cues. */
function Answers({ recording }: { recording: OpenRecording }) {
  const session = useSession();
  const about = takeOf(session, recording)?.id ?? recording.key;
  const answers = logIndex(session.log)
    .of('place')
    .flatMap((matter) => (matter.standing?.of.includes(about) ? [matter] : []));
  if (answers.length === 0) return null;
  const models = modelsFor(answers.every(({ standing }) => standing?.coincident));
  return (
    <table className="ledger-table w-auto" aria-label="Where they were heard">
      <thead>
        <tr>
          <th>Who</th>
          <th>Listener</th>
          <th>Heard</th>
          {models.map(({ id, name }) => (
            <th key={id}>{name}</th>
          ))}
          <th>
            <span className="sr-only">Take back</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {answers.map(({ standing: one, history }) =>
          one ? (
            <tr key={one.id}>
              <th scope="row">{one.name}</th>
              <td>
                {one.by || 'no name'}, by {one.through}
              </td>
              <td className="font-semibold">{sideText(one.shift)}</td>
              {models.map(({ id, shift }) => (
                <td key={id}>{sideText(shift(one.levelDb, -one.delayMs))}</td>
              ))}
              <td>
                <button
                  className="btn btn-ghost btn-xs"
                  onClick={() => {
                    strike('log', one.id);
                    forgetHeard(history.map(({ id }) => id)).catch(notifyFailure);
                  }}
                >
                  Strike it
                </button>
              </td>
            </tr>
          ) : null,
        )}
      </tbody>
    </table>
  );
}

/** A recording gives cues, only a listener a place: where each is heard, asked blind. */
export function WhereHeard(props: Props) {
  const { recording, asking, setAsking, hearAll } = props;
  const session = useSession();
  const last = logIndex(session.log).of('place')[0]?.standing;
  const [by, setBy] = useState(last?.by ?? '');
  const [through, setThrough] = useState<Through>(last?.through ?? 'loudspeakers');
  const [round, setRound] = useState('');
  const names = useId();
  const pair = pairOf(props);
  useEffect(() => {
    panelStore.setState({ blind: asking });
    if (!asking) return;
    return () => {
      panelStore.setState({ blind: false });
      void withEngine((engine) => {
        engine.stop();
        engine.setRange(null);
      });
    };
  }, [asking]);
  const begin = (): void => {
    hearAll();
    setHearing({ headphones: through === AS_LOUDSPEAKERS });
    setRound(newId());
    setAsking(true);
  };
  return (
    <section aria-label="Where it is heard" className="no-print pt-6">
      <h2 className="pb-1 text-[15px]">Where it is heard</h2>
      {typeof pair === 'string' ? (
        <p className="text-muted max-w-[72ch]">{pair}</p>
      ) : asking ? (
        <Round key={round} {...props} array={pair} by={by} through={through} />
      ) : (
        <>
          <p className="text-muted max-w-[72ch] pb-2 text-[12.5px]">
            A recording gives level and delay; only a listener gives a place. The passages sound one
            by one, without a name and in another order; say where each is. The answers show which
            model hears as you do.
          </p>
          <div className="flex flex-wrap items-center gap-4 pb-2">
            <label className="flex items-center gap-2">
              <span className="text-muted">Who listens</span>
              <input
                className="input input-sm w-44"
                maxLength={200}
                list={names}
                value={by}
                onChange={(event) => setBy(event.currentTarget.value)}
              />
              <datalist id={names}>
                {[
                  ...new Set(
                    logIndex(session.log)
                      .of('place')
                      .flatMap(({ standing }) => standing?.by || []),
                  ),
                ].map((name) => (
                  <option key={name} value={name} />
                ))}
              </datalist>
            </label>
            <label className="flex items-center gap-2">
              <span className="text-muted">by</span>
              <select
                aria-label="By what"
                className="select select-sm w-auto"
                value={through}
                onChange={(event) => {
                  const found = LISTENED.find((one) => one === event.currentTarget.value);
                  if (found) setThrough(found);
                }}
              >
                {LISTENED.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </select>
            </label>
            <button className="btn btn-sm" onClick={begin}>
              Say where you hear them
            </button>
          </div>
        </>
      )}
      {!asking && (
        <>
          <Answers recording={recording} />
          <div className="pt-3">
            <ListenerTable />
          </div>
        </>
      )}
    </section>
  );
}
