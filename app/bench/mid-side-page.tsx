import { useMemo, useState } from 'react';
import type { MidSideAudit, SideCopy } from '../../core/audio/measure/mid-side';
import type { SideDecode } from '../../core/audio/process/processed';
import { rotationToMidSide } from '../../core/arrays';
import {
  decodedAt,
  decoderGuard,
  equivalentPair,
  highPassWords,
  midSideTracks,
  placed,
  plannedSideDb,
  saidToBe,
  type MidSideTracks,
} from '../../core/recorded';
import { clamp, formatNumber, formatSigned } from '../../core/units';
import { useSession } from '../document/use-session';
import { Readout } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { highPassKind, levelKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type TreatingProps } from './asked';
import { ChannelChoice, channelName } from './channel-choice';
import { CopyAudit } from './side-copy';
import { PhaseChart } from './side-phase';
import { RoomInMono } from './side-room';

/** So much of a recording tells what it is, s. */
const LOOKED_S = 120;
/** Reached by pulling; beyond it one types. */
const PULLED_DB = { min: -24, max: 12 };

const signedOr = (value: number | null, decimals: number, none: string): string =>
  value === null ? none : formatSigned(value, decimals);

/** What a decode gives at the level of the side that is chosen. */
function DecodeFigures({
  audit,
  gainDb,
  pair,
}: {
  audit: MidSideAudit;
  gainDb: number;
  pair: ReturnType<typeof equivalentPair>;
}) {
  const decoded = decodedAt(audit, gainDb);
  if (!decoded) return null;
  return (
    <div className="max-w-md">
      <Readout
        label="Likeness of left and right"
        number={signedOr(decoded.correlation, 2, 'cannot be told')}
      />
      <Readout
        label="Left against right"
        number={signedOr(decoded.leftAgainstRightDb, 1, 'cannot be told')}
        unit={decoded.leftAgainstRightDb === null ? '' : 'dB'}
      />
      <Readout label="Mono loses" number={formatNumber(-decoded.monoLossDb, 1)} unit="dB" />
      {pair && (
        <p className="text-muted pt-1 text-[12.5px]">
          The same as a crossed pair of pattern {formatNumber(pair.patternA, 2)} at{' '}
          {formatNumber(pair.includedAngleDeg, 0)}°, where both were recorded at one gain.
        </p>
      )}
      <p className="text-muted pt-1 text-[12.5px]">
        Mono is the mid alone: what the side adds, most of it the room, is gone there.
      </p>
    </div>
  );
}

/** How mid-side is patched, and a crossed pair turned into it. */
function Patch() {
  const turned = rotationToMidSide('right');
  return (
    <details className="pt-6">
      <summary className="cursor-pointer font-semibold">The patch</summary>
      <ul className="max-w-[72ch] list-disc pt-1 pl-5">
        <li>
          On a desk: the mid to the middle; the side to two channels, the second turned over, panned
          hard left and right, their faders linked. A polarity, a pan or a level that is off leaves
          some of the side in mono.
        </li>
        <li>
          The side’s positive lobe looks left. Where it looks right, turn its polarity over: else
          left and right change places.
        </li>
        <li>
          Two figure-eights crossed at 90° are mid-side once they are turned by 45° to the right:
          the {turned.mid} one is the mid then, the {turned.side} one the side, its positive lobe to
          the {turned.sidePositive}, so its polarity is turned over. Turned back by 45° they are
          left and right again, without a decoder.
        </li>
      </ul>
    </details>
  );
}

/** Which channels are looked at, and what they say of themselves. */
function useAudit(props: TreatingProps) {
  const { source, binding, names } = props.recording;
  const session = useSession();
  const usual = useMemo(() => midSideTracks(session, binding, names), [session, binding, names]);
  const [chosen, setChosen] = useState<MidSideTracks | null>(null);
  const [given, setGiven] = useState(false);
  const stretch = askedStretch(props, LOOKED_S);
  const tracks = chosen ?? usual;
  const { mid = 0, side = 1, copy = null } = tracks ?? {};
  const { fromS, toS } = stretch;
  const there = tracks !== null && !given;
  const ask = useMemo(
    () =>
      there
        ? { file: source, tracks: [mid, side, ...(copy === null ? [] : [copy])], fromS, toS }
        : null,
    [there, source, mid, side, copy, fromS, toS],
  );
  const audited = useTask('audited', ask);
  const choose = (part: Partial<MidSideTracks>): void => {
    setGiven(false);
    if (tracks) setChosen({ ...tracks, ...part });
  };
  return { tracks, choose, stretch, audited, given, giveUp: () => setGiven(true) };
}

interface TracksProps {
  recording: TreatingProps['recording'];
  tracks: MidSideTracks;
  choose: (part: Partial<MidSideTracks>) => void;
}

/** Which channel is what. */
function Tracks({ recording, tracks, choose }: TracksProps) {
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-2 pb-2">
      <ChannelChoice
        label="Mid"
        recording={recording}
        value={tracks.mid}
        without={tracks.side}
        onChange={(mid) => choose({ mid })}
      />
      <ChannelChoice
        label="Side"
        recording={recording}
        value={tracks.side}
        without={tracks.mid}
        onChange={(side) => choose({ side })}
      />
      {recording.names.length > 2 && (
        <label className="flex items-center gap-2">
          <span className="text-muted">Its copy, turned over</span>
          <select
            className="select select-sm w-auto max-w-52"
            value={tracks.copy ?? ''}
            onChange={(event) => {
              const { value } = event.currentTarget;
              choose({ copy: value === '' ? null : Number(value) });
            }}
          >
            <option value="">none</option>
            {recording.names.map((_, c) => (
              <option key={c} value={c} disabled={c === tracks.mid || c === tracks.side}>
                {channelName(recording, c)}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}

interface ControlsProps {
  recordingKey: string;
  decode: SideDecode;
  change: (part: Partial<SideDecode>) => void;
}

/** Width and high-pass, heard and seen while they move. */
function Controls({ recordingKey, decode, change }: ControlsProps) {
  const { sideDb, sideHighPassHz } = decode;
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-2">
      <label className="flex items-center gap-2">
        <span className="text-muted">Width</span>
        <input
          type="range"
          aria-label="Width, by the level of the side"
          className="range range-xs w-56"
          {...PULLED_DB}
          step={0.5}
          value={clamp(sideDb, PULLED_DB.min, PULLED_DB.max)}
          onChange={(event) => change({ sideDb: Number(event.currentTarget.value) })}
        />
      </label>
      <div className="w-64">
        <QuantityField
          label="Level of the side"
          fieldKey={fieldKey('recording', recordingKey, 'sideDb')}
          kind={levelKind('gainDb')}
          value={sideDb}
          onCommit={(db) => db !== null && change({ sideDb: db })}
        />
      </div>
      <div className="w-80">
        <QuantityField
          label="High-pass of the side"
          fieldKey={fieldKey('recording', recordingKey, 'sideHighPassHz')}
          kind={highPassKind}
          value={sideHighPassHz}
          optional
          onCommit={(hz) => change({ sideHighPassHz: hz })}
          remark={sideHighPassHz === null ? null : highPassWords(sideHighPassHz)}
        />
      </div>
    </div>
  );
}

interface DecodingProps extends TreatingProps {
  tracks: MidSideTracks;
  audit: MidSideAudit;
}

/** Whether to decode, and what comes of it. */
function Decoding(props: DecodingProps) {
  const { recording, stretch, go, tracks, audit, treatment, treat, hear } = props;
  const session = useSession();
  const { binding, names, key } = recording;
  const { mid, side } = tracks;
  const guard = decoderGuard(audit, saidToBe(session, binding, names, tracks));
  const { decode } = treatment;
  const shown = decode?.mid === mid && decode.side === side ? decode : null;
  const planned = plannedSideDb(session, binding, mid) ?? 0;
  const now = shown ?? { mid, side, sideDb: planned, sideHighPassHz: null };
  const change = (part: Partial<SideDecode>): void => {
    treat({ decode: { ...now, ...part } });
    hear();
  };
  return (
    <>
      <div role="status" aria-label="Is it to be decoded?">
        <p className="text-[15px] font-semibold">{guard.title}</p>
        <p className="max-w-[76ch]">
          {guard.like}. {guard.words}
          {guard.wouldTell !== '' && ` What would tell: ${guard.wouldTell}.`}
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-3 py-3">
        {shown ? (
          <button className="btn btn-sm" onClick={() => treat({ decode: null })}>
            Leave it as it is
          </button>
        ) : (
          <button
            className={`btn btn-sm ${guard.decode === true ? 'btn-primary' : ''}`}
            onClick={() => change({})}
          >
            {guard.decode === false ? 'Decode all the same' : 'Decode once'}
          </button>
        )}
        <span className="text-muted text-[12.5px]">
          {shown
            ? 'Heard as it is treated; the file stays as it is, Export writes another.'
            : 'Nothing is decoded unless you say so.'}
        </span>
      </div>
      {shown && <Controls recordingKey={key} decode={shown} change={change} />}
      <div className="grid grid-cols-2 gap-8 pt-3 max-lg:grid-cols-1">
        {(shown !== null || guard.decode !== false) && (
          <DecodeFigures
            audit={audit}
            gainDb={now.sideDb}
            pair={equivalentPair(session, binding, mid, now.sideDb)}
          />
        )}
        {now.sideHighPassHz !== null && <PhaseChart hz={now.sideHighPassHz} />}
      </div>
      {(shown !== null || guard.decode !== false) && (
        <RoomInMono
          {...{ recording, stretch, go, mid, side }}
          sideDb={now.sideDb}
          highPassHz={now.sideHighPassHz}
        />
      )}
    </>
  );
}

/** Mid and side: whether they are, decoded, and what that leaves. */
export function MidSidePage(props: TreatingProps) {
  const { recording, treatment, treat, hear } = props;
  const { tracks, choose, stretch, audited, given, giveUp } = useAudit(props);
  if (!tracks) {
    return <p className="text-muted">Mid and side are two channels; this recording has one.</p>;
  }
  const audit = audited.busy ? null : audited.value;
  const mend = (copy: SideCopy, channel: number): void => {
    treat({
      shiftMs: placed(treatment.shiftMs, channel, -(copy.delayMs ?? 0), 0),
      gainDb: placed(treatment.gainDb, channel, clamp(-copy.levelDb, -60, 24), 0),
      inverted: placed(treatment.inverted, channel, copy.polarity === 1, false),
    });
    hear();
  };
  const { copy } = tracks;
  return (
    <section aria-label="Mid-side">
      <Tracks recording={recording} tracks={tracks} choose={choose} />
      <Working state={audited} what={`Looking at ${stretchText(stretch)}`} cancel={giveUp}>
        {given && (
          <p className="text-muted">Not looked at: choose the channels again, or a stretch.</p>
        )}
        {audit && <Decoding {...props} tracks={tracks} audit={audit} />}
        {audit?.copy && copy !== null && (
          <CopyAudit
            copy={audit.copy}
            name={channelName(recording, copy)}
            mend={() => audit.copy && mend(audit.copy, copy)}
          />
        )}
      </Working>
      <Patch />
    </section>
  );
}
