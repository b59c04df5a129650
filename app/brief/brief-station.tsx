import type { Draft } from 'immer';
import { SCHOOLS } from '../../core/localisation';
import type { Session } from '../../core/session';
import { midReverberationTime } from '../../core/analysis';
import { ChoiceField, TextField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import {
  channelsKind,
  lengthKind,
  percentKind,
  secondsKind,
  temperatureKind,
} from '../parts/quantity-kinds';
import { edit } from '../state/session-store';
import { useSession } from '../state/use-session';

function Job() {
  const { title, brief, venue } = useSession();
  return (
    <section aria-labelledby="job-heading">
      <h2 id="job-heading" className="pb-2 text-[17px]">
        The job
      </h2>
      <TextField
        label="Title"
        value={title}
        most={200}
        required
        onCommit={(value) => edit((d) => void (d.title = value))}
      />
      <TextField
        label="Date"
        value={brief.date}
        most={40}
        onCommit={(value) => edit((d) => void (d.brief.date = value))}
      />
      <TextField
        label="Venue"
        value={venue.name}
        most={200}
        onCommit={(value) => edit((d) => void (d.venue.name = value))}
      />
      <TextField
        label="Programme"
        value={brief.programme}
        most={2000}
        multiline
        onCommit={(value) => edit((d) => void (d.brief.programme = value))}
      />
      <TextField
        label="Notes"
        value={brief.notes}
        most={20000}
        multiline
        onCommit={(value) => edit((d) => void (d.brief.notes = value))}
      />
    </section>
  );
}

/** Where the datum lies in the hall: without both distances nobody knows where the walls are. */
function Datum() {
  const { venue, settings } = useSession();
  const { origin } = venue;
  const field = (axis: 'x' | 'y', label: string) => (
    <QuantityField
      label={label}
      fieldKey={`origin:${axis}`}
      kind={lengthKind('positionM', settings.units)}
      value={origin?.[axis] ?? null}
      optional
      onCommit={(value) =>
        edit((draft) => {
          const known = draft.venue.origin ?? { x: 0, y: 0 };
          draft.venue.origin = value === null ? null : { ...known, [axis]: value };
        })
      }
    />
  );
  return (
    <>
      {field('x', 'Datum from the left wall')}
      {field('y', 'Datum from the wall behind the audience')}
      {origin === null && venue.widthM !== null && (
        <p className="text-muted py-1 text-[12.5px]">
          Where in the hall is the datum? Give both distances, and the walls and their reflections
          appear.
        </p>
      )}
    </>
  );
}

function Hall() {
  const { venue, settings } = useSession();
  const room = lengthKind('roomM', settings.units);
  const size = (name: 'widthM' | 'depthM' | 'heightM', label: string) => (
    <QuantityField
      label={label}
      fieldKey={`venue:${name}`}
      kind={room}
      value={venue[name]}
      optional
      onCommit={(value) => edit((draft) => void (draft.venue[name] = value))}
    />
  );
  const bands = venue.rt60S !== null && typeof venue.rt60S !== 'number';
  const unknown =
    venue.widthM === null ||
    venue.depthM === null ||
    venue.heightM === null ||
    venue.rt60S === null;
  return (
    <section aria-labelledby="hall-heading">
      <h2 id="hall-heading" className="pb-2 text-[17px]">
        The hall
      </h2>
      <QuantityField
        label="Temperature"
        fieldKey="venue:temperatureC"
        kind={temperatureKind(settings.units)}
        value={venue.temperatureC}
        onCommit={(value) =>
          value !== null && edit((draft) => void (draft.venue.temperatureC = value))
        }
      />
      {size('widthM', 'Width')}
      {size('depthM', 'Depth')}
      {size('heightM', 'Height')}
      <Datum />
      <QuantityField
        label="Reverberation time"
        fieldKey="venue:rt60S"
        kind={secondsKind}
        value={midReverberationTime(venue.rt60S)}
        optional
        remark={
          bands
            ? 'Mean of 500 Hz and 1 kHz; the file holds a figure per octave. Typing here replaces them by one.'
            : null
        }
        onCommit={(value) => edit((draft) => void (draft.venue.rt60S = value))}
      />
      {unknown && (
        <p className="text-muted py-2 text-[12.5px]">
          How large is the hall, and how long does it ring? Without both there is no
          direct-to-reverberant figure.
        </p>
      )}
      <h3 className="pt-4 pb-1 text-[14px]">Stage and tape points</h3>
      <QuantityField
        label="Stage width"
        fieldKey="stage:widthM"
        kind={room}
        value={venue.stage.widthM}
        onCommit={(value) =>
          value !== null && edit((draft) => void (draft.venue.stage.widthM = value))
        }
      />
      <QuantityField
        label="Stage depth"
        fieldKey="stage:depthM"
        kind={room}
        value={venue.stage.depthM}
        onCommit={(value) =>
          value !== null && edit((draft) => void (draft.venue.stage.depthM = value))
        }
      />
      {venue.datumPoints.map((point, index) => (
        <div key={point.id}>
          {(['x', 'y'] as const).map((axis) => (
            <QuantityField
              key={axis}
              label={`Tape ${point.name}, ${axis === 'x' ? 'right of centre' : 'upstage of edge'}`}
              fieldKey={`datum:${point.id}:${axis}`}
              kind={lengthKind('positionM', settings.units)}
              value={point[axis]}
              onCommit={(value) =>
                edit((draft: Draft<Session>) => {
                  const target = draft.venue.datumPoints[index];
                  if (target && value !== null) target[axis] = value;
                })
              }
            />
          ))}
        </div>
      ))}
    </section>
  );
}

const NOT_SAID = { value: 'not-said', label: 'not said' } as const;

function Taste() {
  const { brief, settings } = useSession();
  const { intent } = brief;
  return (
    <section aria-labelledby="taste-heading">
      <h2 id="taste-heading" className="pb-2 text-[17px]">
        The taste
      </h2>
      <ChoiceField
        label="School that leads"
        value={settings.school}
        options={SCHOOLS.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(school) => edit((draft) => void (draft.settings.school = school))}
      />
      <p className="text-muted py-1 text-[12.5px]">
        {SCHOOLS.find(({ id }) => id === settings.school)?.holds}
      </p>
      <QuantityField
        label="Wanted width of the picture"
        fieldKey="intent:stageFillPct"
        kind={percentKind}
        value={intent.stageFillPct}
        optional
        onCommit={(value) => edit((draft) => void (draft.brief.intent.stageFillPct = value))}
      />
      <ChoiceField
        label="Room in the picture"
        value={intent.room ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'close', label: 'close' },
          { value: 'balanced', label: 'balanced' },
          { value: 'roomy', label: 'roomy' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.room = value === 'not-said' ? null : value))
        }
      />
      <ChoiceField
        label="Mono"
        value={intent.mono ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'must-survive', label: 'must survive' },
          { value: 'should-survive', label: 'should survive' },
          { value: 'may-be-lost', label: 'may lose some' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.mono = value === 'not-said' ? null : value))
        }
      />
      <ChoiceField
        label="Perspective"
        value={settings.perspective}
        options={[
          { value: 'audience', label: 'audience’s left and right' },
          { value: 'performer', label: 'performer’s left and right' },
        ]}
        onChange={(value) => edit((draft) => void (draft.settings.perspective = value))}
      />
      <QuantityField
        label="Channels at hand"
        fieldKey="brief:channelLimit"
        kind={channelsKind}
        value={brief.channelLimit}
        optional
        check={(value) => (Number.isInteger(value) ? null : 'Allowed: a whole number.')}
        onCommit={(value) => edit((draft) => void (draft.brief.channelLimit = value))}
      />
      <ChoiceField
        label="Sample rate"
        value={`${settings.sampleRateHz}`}
        options={[44100, 48000, 88200, 96000, 176400, 192000, settings.sampleRateHz]
          .filter((rate, index, all) => all.indexOf(rate) === index)
          .map((rate) => ({ value: `${rate}`, label: `${rate / 1000} kHz` }))}
        onChange={(value) => edit((draft) => void (draft.settings.sampleRateHz = Number(value)))}
      />
    </section>
  );
}

/** What is recorded, where, and how it should sound. */
export function BriefStation() {
  return (
    <main aria-label="Brief" className="bg-base-100 h-full overflow-y-auto px-6 py-4" tabIndex={0}>
      <div className="grid max-w-6xl grid-cols-1 gap-x-10 gap-y-6 md:grid-cols-3">
        <Job />
        <Hall />
        <Taste />
      </div>
    </main>
  );
}
