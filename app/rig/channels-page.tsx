import { Faders } from '../parts/faders';
import { capsulesInFrame } from '../../core/arrays';
import { canDo, patternWord } from '../../core/kit';
import { channelList, type ChannelRow } from '../../core/rig';
import type { MicArray } from '../../core/session';
import { formatNumber, formatSigned, panText } from '../../core/units';
import { changeEquipment, changeStrip } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { QuantityField } from '../parts/quantity-field';
import { dbuKind, delayKind, headroomKind, levelKind, panKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { CsvButton } from './rig-pages';

/** Phantom power of an array's channels, as needed or forced. */
function PhantomChoice({ array }: { array: MicArray }) {
  return (
    <select
      aria-label={`Phantom power of ${array.name}`}
      className="select select-xs no-print w-auto"
      value={array.equipment.phantom}
      onChange={(event) => {
        const phantom = (['as needed', 'on', 'off'] as const).find(
          (value) => value === event.currentTarget.value,
        );
        if (phantom) edit(changeEquipment(array.id, { phantom }));
      }}
    >
      <option>as needed</option>
      <option>on</option>
      <option>off</option>
    </select>
  );
}

/** Which microphone of the kit serves a capsule; one that cannot do its pattern is not to be had. */
function MicrophoneChoice(props: { array: MicArray; index: number; name: string }) {
  const { array, index, name } = props;
  const { kit } = useSession();
  const chosen = array.equipment.microphoneIds[index] ?? '';
  const pattern = capsulesInFrame(array.technique)[index]?.pattern;
  return (
    <select
      aria-label={`Microphone of ${name}`}
      className="select select-xs w-auto max-w-48"
      value={chosen}
      onChange={(event) => {
        const { value } = event.currentTarget;
        edit((draft) => {
          const ids = draft.arrays.find(({ id }) => id === array.id)?.equipment.microphoneIds;
          if (!ids) return;
          while (ids.length <= index) ids.push('');
          ids[index] = value;
        });
      }}
    >
      <option value="">as shared out</option>
      {kit.microphones.map((mic) => {
        const fits = pattern === undefined || canDo(mic, pattern);
        return (
          <option key={mic.id} value={mic.id} disabled={!fits}>
            {fits ? mic.name : `${mic.name}: no ${patternWord(pattern)}`}
          </option>
        );
      })}
    </select>
  );
}

/** The loudspeaker that a channel feeds: by its label, or as typed here. */
function LoudspeakerField({ array, row }: { array: MicArray; row: ChannelRow }) {
  const typed = array.equipment.loudspeakers[row.capsule] ?? '';
  const set = (value: string) => {
    const loudspeakers = [...array.equipment.loudspeakers];
    while (loudspeakers.length <= row.capsule) loudspeakers.push('');
    loudspeakers[row.capsule] = value.trim();
    edit(changeEquipment(array.id, { loudspeakers }));
  };
  return (
    <input
      className="input input-xs w-16"
      aria-label={`Loudspeaker of ${row.name}`}
      placeholder={row.loudspeaker ?? 'by pan'}
      list="loudspeakers"
      maxLength={20}
      defaultValue={typed}
      key={typed}
      onBlur={(event) =>
        event.currentTarget.value.trim() !== typed && set(event.currentTarget.value)
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

const USUAL_LOUDSPEAKERS = [
  'L',
  'C',
  'R',
  'LFE',
  'Ls',
  'Rs',
  'Lb',
  'Rb',
  'Ltf',
  'Rtf',
  'Ltr',
  'Rtr',
];

/** How a strip is set: the second strip of a side follows the first, and the decoder pans. */
function StripCells({ row, array }: { row: ChannelRow; array: MicArray | null }) {
  const { capsule, name, polarity, pan, delayMs, delaySamples, again } = row;
  const fixed = array === null || again;
  const decoded = array?.technique.kind === 'mid-side';
  const set = (change: Parameters<typeof changeStrip>[2]) =>
    void (array && edit(changeStrip(array.id, capsule, change)));
  const key = (field: string) => fieldKey('array', row.arrayId, `${field}${capsule}`);
  const polarityText = polarity === 1 ? 'normal' : 'inverted';
  const gainDb = array?.mix.capsules[capsule]?.gainDb ?? 0;
  return (
    <>
      <td data-label="Polarity">
        {fixed ? (
          polarityText
        ) : (
          <button
            className={`btn btn-xs btn-outline font-normal ${polarity === 1 ? '' : 'text-warning'}`}
            aria-label={`Polarity of ${name}: ${polarityText}`}
            title="Invert"
            onClick={() => set({ polarity: polarity === 1 ? -1 : 1 })}
          >
            {polarityText}
          </button>
        )}
      </td>
      <td data-label="Pan" className="num min-w-24">
        {fixed || decoded ? (
          panText(pan)
        ) : (
          <QuantityField
            bare
            label={`Pan of ${name}`}
            fieldKey={key('pan')}
            kind={panKind}
            value={pan}
            onCommit={(value) => value !== null && set({ pan: value })}
          />
        )}
      </td>
      <td data-label="Strip" className="num min-w-20">
        {fixed ? (
          `${formatSigned(gainDb, 1)} dB`
        ) : (
          <QuantityField
            bare
            label={`Strip gain of ${name}`}
            fieldKey={key('gain')}
            kind={levelKind('gainDb')}
            value={gainDb}
            onCommit={(value) => value !== null && set({ gainDb: value })}
          />
        )}
      </td>
      <td data-label="Delay" className="num min-w-24">
        {fixed ? (
          `${formatNumber(delayMs, 2)} ms`
        ) : (
          <QuantityField
            bare
            label={`Delay of ${name}`}
            fieldKey={key('delay')}
            kind={delayKind}
            value={delayMs}
            onCommit={(value) => value !== null && set({ delayMs: value })}
          />
        )}
        {delayMs > 0 && (
          <span className="text-muted block text-[11px]">{delaySamples} samples</span>
        )}
      </td>
    </>
  );
}

/** One line of the list. */
function ChannelCells({ row, array }: { row: ChannelRow; array: MicArray | null }) {
  const session = useSession();
  const index = row.capsule;
  const danger = row.microphone?.phantom === 'must not' && row.phantom === 'on';
  return (
    <tr>
      <td className="font-semibold">{row.number}</td>
      <th scope="row" className="text-base-content!">
        {row.name}
      </th>
      <td data-label="Microphone">
        {array && session.kit.microphones.length > 0 && !row.again ? (
          <MicrophoneChoice array={array} index={index} name={row.name} />
        ) : null}{' '}
        <span className="text-muted">{row.microphone?.name ?? 'not in the kit'}</span>
      </td>
      <td data-label="Phantom" className={danger ? 'text-error font-semibold' : ''}>
        {row.phantom}
        {danger && ': never on this ribbon'}{' '}
        {index === 0 && !row.again && array && <PhantomChoice array={array} />}
      </td>
      <StripCells row={row} array={array} />
      <td data-label="Track">{row.track}</td>
      <td data-label="Loudspeaker" className="min-w-16">
        {array && !row.again ? (
          <LoudspeakerField array={array} row={row} />
        ) : (
          (row.loudspeaker ?? '')
        )}
      </td>
      <td data-label="For" className="max-w-40 truncate" title={row.forWhom}>
        {row.again ? '' : row.forWhom}
        {row.side !== '' && !row.again && <span className="text-muted">, {row.side}</span>}
      </td>
      <td data-label="Level" className="num">
        {formatNumber(row.levelDb, 0)} dB
      </td>
      <td data-label="Peak" className="num">
        {formatNumber(row.peakDb, 0)} dB
      </td>
      <td data-label="Output" className="num">
        {row.outputMv === null ? '—' : `${formatNumber(row.outputMv, 0)} mV`}
      </td>
      <td data-label="Gain" className="num">
        {row.gainDb === null ? 'sensitivity?' : `${formatSigned(row.gainDb, 0)} dB`}
        {row.padDb > 0 && `, pad ${row.padDb} dB`}
      </td>
    </tr>
  );
}

/** Inputs in order, with microphone, phantom, polarity, pan, delay and expected gain. */
export function ChannelsPage() {
  const session = useSession();
  const rows = channelList(session);
  const { rig } = session;
  const set = (change: Partial<typeof rig>) =>
    edit((draft) => void Object.assign(draft.rig, change));
  const byId = new Map(session.arrays.map((array) => [array.id, array]));
  return (
    <section aria-label="Channels" className="flex flex-col gap-3">
      <div className="grid max-w-4xl grid-cols-3 gap-x-8 max-sm:grid-cols-1">
        <QuantityField
          label="Peaks above the typed levels"
          fieldKey={fieldKey('rig', '', 'peak')}
          kind={headroomKind}
          value={rig.peakAboveDb}
          onCommit={(value) => value !== null && set({ peakAboveDb: value })}
        />
        <QuantityField
          label="Headroom above the peaks"
          fieldKey={fieldKey('rig', '', 'headroom')}
          kind={headroomKind}
          value={rig.headroomDb}
          onCommit={(value) => value !== null && set({ headroomDb: value })}
        />
        <QuantityField
          label="Digital full scale at"
          fieldKey={fieldKey('rig', '', 'fullScale')}
          kind={dbuKind}
          value={rig.fullScaleDbu}
          onCommit={(value) => value !== null && set({ fullScaleDbu: value })}
        />
      </div>
      <datalist id="loudspeakers">
        {USUAL_LOUDSPEAKERS.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <div className="overflow-x-auto">
        <table className="ledger-table stacked w-full" aria-label="Channel list">
          <thead>
            <tr>
              {['', 'Channel', 'Microphone', 'Phantom', 'Polarity'].map((name) => (
                <th key={name}>{name || <span className="sr-only">Number</span>}</th>
              ))}
              {['Pan', 'Strip', 'Delay'].map((name) => (
                <th key={name} className="num">
                  {name}
                </th>
              ))}
              {['Track', 'Loudspeaker', 'For'].map((name) => (
                <th key={name}>{name}</th>
              ))}
              {['Level', 'Peak', 'Output', 'Gain'].map((name) => (
                <th key={name} className="num">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <ChannelCells key={row.name} row={row} array={byId.get(row.arrayId) ?? null} />
            ))}
          </tbody>
        </table>
      </div>
      <Faders />
      <p className="text-muted text-[12.5px]">
        Levels in dB SPL at the capsule, all players together. Pans are the{' '}
        {session.settings.perspective === 'audience' ? 'audience’s' : 'performers’'} left and right;
        delays in ms and samples at {session.settings.sampleRateHz / 1000} kHz.
      </p>
      <div>
        <CsvButton name="channels" />
      </div>
    </section>
  );
}
