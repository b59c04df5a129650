import { fieldKey } from '../view/validity';
import { CircleCheck, OctagonAlert } from 'lucide-react';
import { channelMap } from '../../core/channels';
import { shortages, storage } from '../../core/planning';
import { formatNumber } from '../../core/units';
import { ChoiceField, Readout } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { channelsKind, hoursKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

const whole = (value: number) => (Number.isInteger(value) ? null : 'Allowed: a whole number.');

function Shortages() {
  const session = useSession();
  return (
    <ul aria-label="Channels and tracks" className="py-2">
      {shortages(session).map(({ what, needed, limit, short }) => (
        <li key={what} className="flex items-center gap-2 py-0.5">
          {short > 0 ? (
            <OctagonAlert size={15} className="text-error shrink-0" />
          ) : (
            <CircleCheck size={15} className="text-muted shrink-0" />
          )}
          <span>
            {needed} {what} needed
            {limit === null ? '; how many are there is not said' : `, ${limit} there`}
            {short > 0 && <strong>: {short} short</strong>}
          </span>
        </li>
      ))}
    </ul>
  );
}

function bytesText(bytes: number): string {
  return bytes >= 1e12
    ? `${formatNumber(bytes / 1e12, 2)} TB`
    : `${formatNumber(bytes / 1e9, 1)} GB`;
}

const durationText = (minutes: number): string =>
  minutes < 90 ? `${Math.floor(minutes)} min` : `${formatNumber(minutes / 60, 1)} h`;

/** Inputs, tracks and room for the files. */
export function Counts() {
  const session = useSession();
  const { brief, settings, kit } = session;
  const tracks = brief.storage.tracks ?? Math.max(1, channelMap(session).inputs.length);
  const room = storage(
    tracks,
    settings.sampleRateHz,
    Number(brief.storage.bitDepth),
    brief.storage.hours,
  );
  return (
    <section aria-labelledby="counts-heading" className="pt-5">
      <h2 id="counts-heading" className="pb-2 text-[17px]">
        Channels and storage
      </h2>
      <QuantityField
        label="Channels at hand"
        fieldKey={fieldKey('brief', '', 'channelLimit')}
        kind={channelsKind}
        value={brief.channelLimit}
        optional
        check={whole}
        onCommit={(value) => edit((draft) => void (draft.brief.channelLimit = value))}
      />
      <QuantityField
        label="Inputs with preamplifier"
        fieldKey={fieldKey('kit', '', 'preampChannels')}
        kind={channelsKind}
        value={kit.preampChannels}
        optional
        check={whole}
        onCommit={(value) => edit((draft) => void (draft.kit.preampChannels = value))}
      />
      <QuantityField
        label="Tracks of the recorder"
        fieldKey={fieldKey('kit', '', 'recorderTracks')}
        kind={channelsKind}
        value={kit.recorderTracks}
        optional
        check={whole}
        onCommit={(value) => edit((draft) => void (draft.kit.recorderTracks = value))}
      />
      <Shortages />
      <QuantityField
        label="Tracks recorded (empty: one a microphone)"
        fieldKey={fieldKey('brief', '', 'tracks')}
        kind={channelsKind}
        value={brief.storage.tracks}
        optional
        check={whole}
        onCommit={(value) => edit((draft) => void (draft.brief.storage.tracks = value))}
      />
      <ChoiceField
        label="Sample rate"
        value={`${settings.sampleRateHz}`}
        options={[44100, 48000, 88200, 96000, 176400, 192000, settings.sampleRateHz]
          .filter((rate, index, all) => all.indexOf(rate) === index)
          .map((rate) => ({ value: `${rate}`, label: `${rate / 1000} kHz` }))}
        onChange={(value) => edit((draft) => void (draft.settings.sampleRateHz = Number(value)))}
      />
      <ChoiceField
        label="Depth"
        value={brief.storage.bitDepth}
        options={[
          { value: '16', label: '16 bit' },
          { value: '24', label: '24 bit' },
          { value: '32', label: '32 bit' },
        ]}
        onChange={(depth) => edit((draft) => void (draft.brief.storage.bitDepth = depth))}
      />
      <QuantityField
        label="All takes together"
        fieldKey={fieldKey('brief', '', 'hours')}
        kind={hoursKind}
        value={brief.storage.hours}
        onCommit={(value) =>
          value !== null && edit((draft) => void (draft.brief.storage.hours = value))
        }
      />
      <Readout label={`Room for ${tracks} tracks`} number={bytesText(room.bytes)} />
      <Readout
        label="One file of all tracks passes 4 GiB"
        number={
          room.passes4GiBAfterMin === null
            ? 'never'
            : `after ${durationText(room.passes4GiBAfterMin)}`
        }
      />
      <Readout
        label="One file a track passes 4 GiB"
        number={
          room.singlePasses4GiBAfterMin === null
            ? 'never'
            : `after ${durationText(room.singlePasses4GiBAfterMin)}`
        }
      />
    </section>
  );
}
