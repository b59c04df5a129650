import { useState } from 'react';
import type { BandDifference } from '../../core/audio/measure/pair';
import { boundPair, matchWords, placed, symmetryWords } from '../../core/recorded';
import { clamp } from '../../core/units';
import { usePlan } from '../document/use-session';
import { useTask } from '../workers/use-task';
import type { Tasks } from '../workers/tasks';
import { askedStretch, stretchText, Working, type Seconds, type TreatingProps } from './asked';
import { BandBars } from './band-bars';
import { ChannelChoice, channelName } from './channel-choice';
import { KeepMatch } from './keep-match';

/** No more of the noise than this is read, s. */
const LOOKED_S = 60;
/** A third that is farther off than this is drawn as one that is, dB. */
const MUCH_DB = 3;

/** Differences by third octave. */
function Differences({ title, bands }: { title: string; bands: readonly BandDifference[] }) {
  return (
    <BandBars
      title={title}
      about="By third octave, after the trim; nineteen times of twenty the true one is within the last column of the table."
      header={['frequency Hz', 'difference dB', 'within dB']}
      rows={bands.map(({ hz, db, withinDb }) => [hz, db, withinDb])}
      values={bands.map(({ hz, db }) => ({ hz, value: clamp(db, -12, 12) }))}
      domain={[-6, 6]}
      ticks={[-6, -3, 0, 3, 6]}
      axis="dB"
      bad={(db) => Math.abs(db) > MUCH_DB}
    />
  );
}

const Said = ({ label, words }: { label: string; words: readonly string[] }) => (
  <ul aria-label={label} className="pb-2">
    {words.map((text, i) => (
      <li key={text} className={i === 0 ? 'font-semibold' : ''}>
        {text}
      </li>
    ))}
  </ul>
);

/** Two microphones side by side in the same noise. */
function Match(props: TreatingProps) {
  const { recording, treatment, treat, hear } = props;
  const plan = usePlan();
  const [usualFirst, usualSecond] = boundPair(plan, recording.binding) ?? [0, 1];
  const [first, setFirst] = useState(usualFirst);
  const [second, setSecond] = useState(usualSecond);
  const [ask, setAsk] = useState<Tasks['matched']['ask'] | null>(null);
  const state = useTask('matched', ask);
  const found = state.busy ? null : state.value;
  const names = ask?.pair.map((c) => channelName(recording, c)) ?? [];
  const [one = '', other = ''] = names;
  return (
    <section aria-label="Match of a pair">
      <h2 className="pb-1 text-[15px]">Match of a pair</h2>
      <p className="text-muted max-w-[76ch] pb-2 text-[12.5px]">
        Both side by side, facing the same loudspeaker with steady noise, a hand’s width apart: ten
        seconds and more. Keep the noise at a level that is easy on the ears.
      </p>
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <ChannelChoice
          label="First"
          recording={recording}
          value={first}
          onChange={setFirst}
          without={second}
        />
        <ChannelChoice
          label="Second"
          recording={recording}
          value={second}
          onChange={setSecond}
          without={first}
        />
        <button
          className="btn btn-sm"
          onClick={() =>
            setAsk({
              file: recording.source,
              pair: [first, second],
              ...askedStretch(props, LOOKED_S),
            })
          }
        >
          Match them {props.stretch ? 'in the stretch' : ''}
        </button>
      </div>
      <Working state={state} what="Matching" cancel={() => setAsk(null)}>
        {ask && found && !found.ok && <p role="status">Cannot be told: {found.message}.</p>}
        {ask && found?.ok && (
          <>
            <Said label="How they match" words={matchWords(found.value, one, other)} />
            <p className="text-muted flex flex-wrap items-center gap-3 pb-2 text-[12.5px]">
              Of {stretchText(ask)}.
              <button
                className="btn btn-xs"
                onClick={() => {
                  const db = clamp(Math.round(found.value.trimDb * 10) / 10, -60, 24);
                  treat({ gainDb: placed(treatment.gainDb, ask.pair[1], db, 0) });
                  hear();
                }}
              >
                Trim {other}
              </button>
            </p>
            <KeepMatch recording={recording} channel={ask.pair[1]} match={found.value} />
            <div className="max-w-3xl">
              <Differences title={`${other} against ${one}`} bands={found.value.bands} />
            </div>
          </>
        )}
      </Working>
    </section>
  );
}

const SIDES = [
  ['front', 'Front'],
  ['rear', 'Rear'],
  ['side', 'Edge'],
] as const;

/** One figure-eight, turned: the same noise from its front, its rear and its edge. */
function SymmetryTest(props: TreatingProps) {
  const { recording, stretch } = props;
  const [channel, setChannel] = useState(0);
  const [taken, setTaken] = useState<Partial<Record<'front' | 'rear' | 'side', Seconds>>>({});
  const [ask, setAsk] = useState<Tasks['symmetric']['ask'] | null>(null);
  const state = useTask('symmetric', ask);
  const found = state.busy ? null : state.value;
  const { front, rear, side = null } = taken;
  return (
    <section aria-label="Symmetry of a figure-eight" className="pt-6">
      <h2 className="pb-1 text-[15px]">Symmetry of a figure-eight</h2>
      <p className="text-muted max-w-[76ch] pb-2 text-[12.5px]">
        The same noise from its front, its rear and, if you like, its edge, with nothing moved but
        the microphone turned. Choose each stretch on the curve and say which it is.
      </p>
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <ChannelChoice
          label="Microphone"
          recording={recording}
          value={channel}
          onChange={setChannel}
        />
        {SIDES.map(([key, label]) => (
          <button
            key={key}
            className="btn btn-sm"
            disabled={!stretch}
            onClick={() => stretch && setTaken({ ...taken, [key]: stretch })}
          >
            {label}: {taken[key] ? stretchText(taken[key]) : 'the stretch'}
          </button>
        ))}
        <button
          className="btn btn-sm"
          disabled={!front || !rear}
          onClick={() =>
            front && rear && setAsk({ file: recording.source, channel, front, rear, side })
          }
        >
          Compare the sides
        </button>
        {!stretch && !front && (
          <span className="text-muted text-[12.5px]">Choose a stretch on the curve first.</span>
        )}
      </div>
      <Working state={state} what="Comparing" cancel={() => setAsk(null)}>
        {ask && found && !found.ok && <p role="status">Cannot be told: {found.message}.</p>}
        {ask && found?.ok && (
          <>
            <Said
              label="How alike its sides are"
              words={symmetryWords(found.value, channelName(recording, ask.channel))}
            />
            <div className="max-w-3xl">
              <Differences title="Rear against front" bands={found.value.rear} />
            </div>
          </>
        )}
      </Working>
    </section>
  );
}

/** Whether two microphones are a pair, and a figure-eight is one. */
export function MicrophonesPage(props: TreatingProps) {
  return (
    <section aria-label="Microphones">
      {props.recording.names.length > 1 ? (
        <Match {...props} />
      ) : (
        <p className="text-muted pb-2">A match is of two channels; this recording has one.</p>
      )}
      <SymmetryTest {...props} />
    </section>
  );
}
