import { useId, useMemo, useState } from 'react';
import { channelMap } from '../../core/channels';
import { bindingByNames, bindingInOrder, type Binding } from '../../core/recorded';
import type { TapTest } from '../../core/audio/measure/identity';
import { placeText } from '../../core/audio/measure/readings';
import { useSession } from '../document/use-session';
import { useTask } from '../workers/use-task';
import { askedStretch, stretchText, Working, type PageProps } from './asked';
import { channelName } from './channel-choice';
import { bind, takeOf } from './opening';
import type { OpenRecording } from './recordings';

/** One channel's input, from the channel list; another one that had it gives it up. */
function Bound({ recording, channel }: { recording: OpenRecording; channel: number }) {
  const session = useSession();
  const label = useId();
  const { inputs } = channelMap(session);
  const { binding, own } = recording;
  return (
    <tr>
      <th scope="row" id={label}>
        {channel + 1}
      </th>
      <td>{own[channel] || '—'}</td>
      <td>
        <select
          aria-label={`Input of channel ${channel + 1}`}
          className="select select-sm w-auto max-w-64"
          value={binding[channel] ?? ''}
          onChange={(event) => {
            const { value } = event.currentTarget;
            const number = value === '' ? null : Number(value);
            const next = own.map((_, c) => {
              if (c === channel) return number;
              return number !== null && binding[c] === number ? null : (binding[c] ?? null);
            });
            bind(session.id, recording, next);
          }}
        >
          <option value="">none</option>
          {inputs.map(({ number, name }) => (
            <option key={number} value={number}>
              {number} {name}
            </option>
          ))}
        </select>
      </td>
    </tr>
  );
}

/** What taps say, as a sentence with what to do. */
function tapWords(test: TapTest, recording: OpenRecording): string {
  const { verdict, wrong, uncertain, taps } = test;
  if (verdict === 'uncertain') {
    return `The order cannot be told: ${uncertain}. Tap every microphone once, in the order of the list, a second apart, and choose just that stretch.`;
  }
  if (verdict === 'as announced') {
    return `All ${taps.length} channels are where the list has them, sure: each tap was heard on its own.`;
  }
  const each = wrong.map(
    ({ announced, heard }) =>
      `${channelName(recording, announced)} is heard on channel ${heard + 1}`,
  );
  return `Wrong order, sure: ${each.join('; ')}. Change the patch, or bind the channels as they are heard.`;
}

/** Every microphone tapped in turn: which channel is which. */
function Taps(props: PageProps) {
  const { recording } = props;
  const session = useSession();
  const asked = askedStretch(props, 600);
  const [part, setPart] = useState<{ fromS: number; toS: number } | null>(null);
  const channels = recording.own.length;
  const ask = useMemo(
    () =>
      part && {
        file: recording.source,
        announced: Array.from({ length: channels }, (_, c) => c),
        ...part,
      },
    [recording.source, channels, part],
  );
  const state = useTask('taps', ask);
  const test = part && !state.busy ? state.value : null;
  /** channels bound as they are heard */
  const heardAs = (wrong: TapTest['wrong']): Binding =>
    recording.binding.map((own, channel) => {
      const other = wrong.find(({ heard }) => heard === channel);
      return other ? (recording.binding[other.announced] ?? null) : own;
    });
  return (
    <section aria-label="Taps" className="pt-6">
      <h2 className="pb-1 text-[15px]">Is every microphone on its channel?</h2>
      <p className="text-muted max-w-[70ch] pb-2 text-[12.5px]">
        Tap the microphones one after another in the order of the channels, a second apart; then
        choose that stretch on the curve.
      </p>
      <button className="btn btn-sm" disabled={channels < 2} onClick={() => setPart({ ...asked })}>
        Listen for taps in {props.stretch ? stretchText(asked) : 'all of it'}
      </button>
      {channels < 2 && (
        <p className="text-muted text-[12.5px]">One channel has no order: two are needed.</p>
      )}
      <Working state={state} what="Taps" cancel={() => setPart(null)}>
        {test && (
          <>
            <p role="status" aria-label="What the taps say" className="pt-2">
              {tapWords(test, recording)}
            </p>
            {test.verdict === 'other order' && recording.binding.some((own) => own !== null) && (
              <button
                className="btn btn-sm mt-2"
                onClick={() => bind(session.id, recording, heardAs(test.wrong))}
              >
                Bind them as they are heard
              </button>
            )}
            {test.taps.length > 0 && (
              <table className="ledger-table mt-2" aria-label="Taps that were heard">
                <thead>
                  <tr>
                    <th className="num">At</th>
                    <th>Channel</th>
                    <th className="num">Above the next</th>
                  </tr>
                </thead>
                <tbody>
                  {test.taps.map(({ atS, channel, clearDb }) => (
                    <tr key={atS}>
                      <td className="num">
                        <button
                          className="link"
                          onClick={() => props.go({ fromS: atS, toS: atS + 0.5 })}
                        >
                          {placeText(atS, 2)}
                        </button>
                      </td>
                      <td>
                        {channel + 1} {recording.names[channel]}
                      </td>
                      <td className="num">{clearDb.toFixed(0)} dB</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </>
        )}
      </Working>
    </section>
  );
}

/** Which microphone each channel is: by name where it can be told, else by hand. */
export function ChannelsPage(props: PageProps) {
  const { recording } = props;
  const session = useSession();
  const { inputs } = channelMap(session);
  const take = takeOf(session, recording);
  const put = (binding: Binding): void => bind(session.id, recording, binding);
  const bound = recording.binding.filter((number) => number !== null).length;
  return (
    <>
      <h2 className="pb-1 text-[15px]">
        {bound === 0
          ? 'No channel is bound to a microphone yet'
          : `${bound} of ${recording.own.length} channels are microphones of the plan`}
        {take && `: take ${take.number}`}
      </h2>
      <p className="text-muted max-w-[70ch] pb-2 text-[12.5px]">
        What is bound is called like its microphone everywhere, is compared with the plan, and makes
        a take of the session.
      </p>
      {inputs.length === 0 ? (
        <p role="status">The plan has no microphones yet: put up an array first.</p>
      ) : (
        <>
          <div className="flex flex-wrap gap-2 pb-2">
            <button
              className="btn btn-sm"
              onClick={() => put(bindingInOrder(session, recording.own.length))}
            >
              In the order of the channel list
            </button>
            <button
              className="btn btn-sm"
              onClick={() => put(bindingByNames(session, recording.own))}
            >
              By their names
            </button>
            <button
              className="btn btn-sm btn-ghost font-normal"
              disabled={bound === 0}
              onClick={() => put(recording.own.map(() => null))}
            >
              Bind none
            </button>
          </div>
          <table className="ledger-table" aria-label="Channels and their inputs">
            <thead>
              <tr>
                <th>Channel</th>
                <th>As the file calls it</th>
                <th>Input of the channel list</th>
              </tr>
            </thead>
            <tbody>
              {recording.own.map((_, channel) => (
                <Bound key={channel} recording={recording} channel={channel} />
              ))}
            </tbody>
          </table>
        </>
      )}
      <Taps {...props} />
    </>
  );
}
