import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { placeText } from '../../core/audio/measure/readings';
import { markOf } from '../../core/recall';
import type { LogEntry, Session } from '../../core/session';
import { togglePlay, withEngine } from '../audio/actions';
import { listeningStore, onHeard } from '../audio/listening';
import { useHeardRecording } from '../bench/heard';
import { UNTREATED } from '../../core/recorded';
import { benchOf, benchStore, type OpenRecording } from '../bench/recordings';
import { takeOf } from '../bench/opening';
import { amend, enter, logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { RecordingsHere } from './recordings-here';
import { SaidField } from '../parts/said-field';
import { useLetterKeys } from '../view/letter-keys';

type Moment = Extract<LogEntry, { kind: 'moment' }>;

/** From one moment to the next. */
interface Segment {
  moment: Moment;
  toS: number;
}

const MARK_KEY = 'K';
const KEYS = [MARK_KEY];
const STARS = [0, 1, 2, 3, 4, 5] as const;

/** The best first; of equal ones the earlier. */
const byRating = (a: Segment, b: Segment): number =>
  (b.moment.rating ?? -1) - (a.moment.rating ?? -1) || a.moment.atS - b.moment.atS;

/** A good segment becomes a mark: where somebody can find it again. */
function makeMark(moment: Moment, session: Session, spot: string): void {
  const array = session.arrays.find(({ id }) => id === spot) ?? null;
  const said = {
    array,
    made: 'sweep' as const,
    by: moment.by,
    name: moment.place || 'From a sweep',
    rating: moment.rating,
    text: [moment.place, moment.text].filter((part) => part !== '').join('; '),
    tags: ['sweep'],
  };
  const measured = markOf(session, { ...said, at: array ?? { x: 0, y: 0, z: 0 } });
  const nowhere = { x: null, y: null, z: null, measured: [], against: null, instrument: '' };
  const id = enter('marks', array ? measured : { ...measured, ...nowhere });
  if (id !== '')
    notify('The mark is in the session.', { label: 'Strike it', run: () => strike('marks', id) });
}

interface RowProps {
  segment: Segment;
  wholeS: number;
  best: boolean;
}

function Row({ segment: { moment, toS }, wholeS, best }: RowProps) {
  const session = useSession();
  const [spot, setSpot] = useState('');
  const play = (): void =>
    void withEngine((engine) => {
      engine.setRange([moment.atS / wholeS, Math.min(1, toS / wholeS)]);
      engine.seek(moment.atS / wholeS);
      if (listeningStore.getState().state === 'silent') void engine.play();
    });
  return (
    <li aria-label={`Moment at ${placeText(moment.atS)}`} className="border-hairline border-b py-2">
      <div className="flex flex-wrap items-center gap-3">
        <button className="btn btn-sm" onClick={play}>
          {placeText(moment.atS)} to {placeText(toS)}
        </button>
        <label className="flex items-center gap-2">
          <span className="text-muted">Rating</span>
          <select
            className="select select-sm w-auto"
            value={moment.rating ?? ''}
            onChange={(event) => {
              const { value } = event.currentTarget;
              amend('log', moment.id, { rating: value === '' ? null : Number(value) });
            }}
          >
            <option value="">none yet</option>
            {STARS.map((stars) => (
              <option key={stars} value={stars}>
                {stars} of 5
              </option>
            ))}
          </select>
        </label>
        {best && <span className="font-semibold">the best so far</span>}
        <span className="flex-1" />
        <label className="flex items-center gap-2">
          <span className="text-muted">It stood at</span>
          <select
            className="select select-sm w-auto"
            value={spot}
            onChange={(event) => setSpot(event.currentTarget.value)}
          >
            <option value="">not in the plan</option>
            {session.arrays.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <button className="btn btn-sm" onClick={() => makeMark(moment, session, spot)}>
          Make it a mark
        </button>
        <button className="btn btn-ghost btn-xs" onClick={() => strike('log', moment.id)}>
          Strike<span className="sr-only"> the moment at {placeText(moment.atS)}</span>
        </button>
      </div>
      <div className="max-w-[70ch]">
        <SaidField
          label="Where"
          value={moment.place}
          most={500}
          placeholder="as it was said: half a metre left of the stool"
          onSay={(place) => amend('log', moment.id, { place })}
        />
      </div>
    </li>
  );
}

/** One recording, listened to while something moves in it. */
function Sweep({ recording }: { recording: OpenRecording }) {
  const session = useSession();
  const silent = useStore(listeningStore, ({ state }) => state === 'silent');
  const problem = useStore(listeningStore, (state) => state.problem);
  const at = useRef(0);
  useHeardRecording(recording, 'all', UNTREATED);
  useEffect(
    () =>
      onHeard((heard) => {
        if (heard) at.current = heard.levels.position / listeningStore.getState().rateHz;
      }),
    [],
  );
  const of = takeOf(session, recording)?.id ?? recording.key;
  const wholeS = recording.info.frames / recording.info.format.sampleRateHz;
  const mark = useCallback(() => {
    enter('log', {
      ...{ kind: 'moment' as const, by: '', rating: null, place: '', text: '' },
      of,
      atS: Math.min(at.current, wholeS),
    });
  }, [of, wholeS]);
  useLetterKeys(KEYS, mark);
  const segments = useMemo(() => {
    const moments = logIndex(session.log)
      .of('moment')
      .flatMap(({ standing }) => (standing?.of === of ? [standing] : []))
      .sort((a, b) => a.atS - b.atS);
    return moments.map((moment, i): Segment => ({ moment, toS: moments[i + 1]?.atS ?? wholeS }));
  }, [session.log, of, wholeS]);
  const rated = [...segments].sort(byRating);
  const [best] = rated;
  return (
    <>
      {problem !== null && (
        <p role="alert" className="text-error pb-2">
          {problem}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <button
          className="btn btn-sm"
          onClick={() => {
            void withEngine((engine) => engine.setRange(null));
            void togglePlay();
          }}
        >
          {silent ? 'Play' : 'Stop'}
        </button>
        <button className="btn btn-sm btn-primary" onClick={mark} title={`Key ${MARK_KEY}`}>
          Mark this moment ({MARK_KEY})
        </button>
        <p className="text-muted">
          {segments.length === 0
            ? `Press ${MARK_KEY} whenever the microphone or the head has come to another place.`
            : `${segments.length} ${segments.length === 1 ? 'moment' : 'moments'}, the best first.`}
        </p>
      </div>
      <ol aria-label="Moments">
        {rated.map((segment) => (
          <Row
            key={`${segment.moment.of} ${segment.moment.atS}`}
            segment={segment}
            wholeS={wholeS}
            best={segment === best && segment.moment.rating !== null}
          />
        ))}
      </ol>
    </>
  );
}

/** A microphone or a head moves while it is recorded: moments that are marked, rated, and found again. */
export function SweepPage() {
  const { id } = useSession();
  const { open } = useStore(benchStore, ({ of }) => benchOf(of, id));
  const [chosen, setChosen] = useState<string | null>(null);
  const recording = open.find(({ key }) => key === chosen) ?? open[0] ?? null;
  if (!recording) {
    return (
      <>
        <p className="text-muted max-w-[64ch] pb-3">
          Record while somebody moves one microphone slowly, saying aloud where it is; or walk with
          a pair of your own. Open that recording: then moments are marked here while one listens,
          rated, and the best becomes a mark.
        </p>
        <RecordingsHere />
      </>
    );
  }
  return (
    <>
      {open.length > 1 && (
        <label className="flex items-center gap-2 pb-3">
          <span className="text-muted">Recording</span>
          <select
            className="select select-sm w-auto"
            value={recording.key}
            onChange={(event) => setChosen(event.currentTarget.value)}
          >
            {open.map(({ key, title }) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
          </select>
        </label>
      )}
      <Sweep key={recording.key} recording={recording} />
    </>
  );
}
