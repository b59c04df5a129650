import { fieldKey } from '../view/validity';
import { current, type Draft } from 'immer';
import { transitionFrequency } from '../../core/acoustics';
import { midReverberationTime } from '../../core/analysis';
import { hallMeasures, liftedBy } from '../../core/hall';
import { withStage } from '../../core/ensembles';
import type { Session } from '../../core/session';
import { formatNumber } from '../../core/units';
import { Readout, TextField } from '../parts/fields';
import { Offered } from '../parts/offered';
import { GLOSSARY } from '../parts/glossary';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind, secondsKind, temperatureKind } from '../parts/quantity-kinds';
import { editHall } from '../document/edits';
import { sizeHall } from '../document/hall-shape';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { CeilingFields } from './ceiling-fields';
import { HallAreas } from './hall-areas';
import { OutlineChoice } from '../parts/outline-choice';
import { Surfaces } from './surfaces';

/** Where the datum lies in the hall: without both distances nobody knows where the walls are. */
function Datum() {
  const { venue, settings } = useSession();
  const { origin } = venue;
  const field = (axis: 'x' | 'y', label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('origin', '', axis)}
      kind={lengthKind('positionM', settings.units)}
      value={origin?.[axis] ?? null}
      optional
      about={GLOSSARY.datum}
      onCommit={(value) =>
        editHall((draft) => {
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

/** Another size of the stage; tape points at its corners go with it. */
function setStage(change: Partial<Session['venue']['stage']>): void {
  edit((draft) => {
    const venue = current(draft.venue);
    Object.assign(draft.venue, withStage(venue, { ...venue.stage, ...change }));
  });
}

/** The stage higher or lower: everybody and everything on it comes along. */
function liftStage(heightM: number): void {
  editHall((draft) => {
    const venue = current(draft.venue);
    const byM = heightM - venue.stage.heightM;
    const lift = (things: Draft<{ x: number; y: number; z: number }>[]): void =>
      liftedBy(venue, things, byM).forEach(({ z }, i) => {
        const thing = things[i];
        if (thing) thing.z = z;
      });
    lift(draft.sources);
    lift(draft.arrays);
    draft.venue.stage.heightM = heightM;
  });
}

/** Another height of the hall; without one its ceiling is flat, and eaves stay below the ridge. */
function setHeight(heightM: number | null): void {
  editHall((draft) => {
    const { ceiling } = draft.venue;
    draft.venue.heightM = heightM;
    if (heightM === null) draft.venue.ceiling = { kind: 'flat' };
    else if (ceiling.kind === 'pitched') {
      if (ceiling.eavesM <= heightM - 0.05) return;
      if (heightM >= 0.55) ceiling.eavesM = Math.max(0.5, Math.round(heightM * 60) / 100);
      else draft.venue.ceiling = { kind: 'flat' };
    } else if (ceiling.kind === 'stepped') {
      for (const step of ceiling.steps) step.heightM = Math.min(step.heightM, heightM);
    }
  });
}

/** How long the hall rings, and how that is known. */
function Reverberation() {
  const { venue } = useSession();
  const bands = venue.rt60S !== null && typeof venue.rt60S !== 'number';
  return (
    <>
      <QuantityField
        label="Reverberation time"
        fieldKey={fieldKey('venue', '', 'rt60S')}
        kind={secondsKind}
        value={midReverberationTime(venue.rt60S)}
        optional
        remark={
          bands
            ? 'Mean of 500 Hz and 1 kHz; the file holds a figure per octave. Typing here replaces them by one.'
            : null
        }
        onCommit={(value) =>
          edit((draft) => {
            draft.venue.rt60S = value;
            // What was measured is not how the typed figure is known.
            draft.venue.rt60From = '';
          })
        }
      />
      {venue.rt60S !== null && (
        <TextField
          label="How it is known"
          value={venue.rt60From}
          most={500}
          onCommit={(value) => edit((draft) => void (draft.venue.rt60From = value))}
        />
      )}
    </>
  );
}

/** Stage and tape points. */
function StageFields() {
  const { venue, settings } = useSession();
  const room = lengthKind('roomM', settings.units);
  return (
    <section aria-labelledby="stage-heading">
      <h2 id="stage-heading" className="pt-4 pb-1 text-[17px]">
        Stage and tape points
      </h2>
      <QuantityField
        label="Stage width"
        fieldKey={fieldKey('stage', '', 'widthM')}
        kind={room}
        value={venue.stage.widthM}
        onCommit={(value) => value !== null && setStage({ widthM: value })}
      />
      <QuantityField
        label="Stage depth"
        fieldKey={fieldKey('stage', '', 'depthM')}
        kind={room}
        value={venue.stage.depthM}
        onCommit={(value) => value !== null && setStage({ depthM: value })}
      />
      <QuantityField
        label="Stage floor above the hall’s"
        fieldKey={fieldKey('stage', '', 'heightM')}
        kind={lengthKind('riseM', settings.units)}
        value={venue.stage.heightM}
        remark={
          venue.stage.heightM > 0
            ? 'Heights of players and microphones are above the hall’s floor; what is on the stage comes along.'
            : null
        }
        onCommit={(value) => value !== null && liftStage(value)}
      />
      {venue.datumPoints.map((point, index) => (
        <div key={point.id}>
          {(['x', 'y'] as const).map((axis) => (
            <QuantityField
              key={axis}
              label={`Tape ${point.name}, ${axis === 'x' ? 'right of centre' : 'upstage of edge'}`}
              fieldKey={fieldKey('datum', point.id, axis)}
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

/** The hall: size, surfaces, reverberation, stage and tape points. */
export function HallPage() {
  const { venue, settings } = useSession();
  const room = lengthKind('roomM', settings.units);
  const size = (name: 'widthM' | 'depthM' | 'heightM', label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('venue', '', name)}
      kind={room}
      value={venue[name]}
      optional
      onCommit={(value) => (name === 'heightM' ? setHeight(value) : sizeHall(name, value))}
    />
  );
  const measures = hallMeasures(venue);
  const volumeM3 = measures?.volumeM3 ?? null;
  const meanS = midReverberationTime(venue.rt60S);
  const unknown =
    venue.widthM === null ||
    venue.depthM === null ||
    venue.heightM === null ||
    venue.rt60S === null;
  return (
    <>
      <Offered />
      <div className="grid max-w-5xl grid-cols-1 gap-x-10 gap-y-6 md:grid-cols-2">
        <section aria-labelledby="hall-heading">
          <h2 id="hall-heading" className="pb-2 text-[17px]">
            The hall
          </h2>
          <QuantityField
            label="Temperature"
            fieldKey={fieldKey('venue', '', 'temperatureC')}
            kind={temperatureKind(settings.units)}
            value={venue.temperatureC}
            onCommit={(value) =>
              value !== null && edit((draft) => void (draft.venue.temperatureC = value))
            }
          />
          <OutlineChoice />
          {size('widthM', 'Width')}
          {size('depthM', 'Depth')}
          {size('heightM', venue.ceiling.kind === 'flat' ? 'Height' : 'Height at its highest')}
          <CeilingFields />
          {venue.widthM !== null && (
            <p className="text-muted py-1 text-[12.5px]">
              Corner by corner, or traced over a picture of the floor plan: Floor, Walls.
            </p>
          )}
          <Datum />
          <Reverberation />
          {measures && (
            <>
              <Readout label="Volume" number={formatNumber(measures.volumeM3, 0)} unit="m³" />
              <Readout label="Surface" number={formatNumber(measures.surfaceM2, 0)} unit="m²" />
            </>
          )}
          {volumeM3 !== null && meanS !== null && (
            <Readout
              label="Single modes stand out below"
              number={formatNumber(transitionFrequency(volumeM3, meanS), 0)}
              unit="Hz"
            />
          )}
          {unknown && (
            <p className="text-muted py-2 text-[12.5px]">
              How large is the hall, and how long does it ring? Without both there is no
              direct-to-reverberant figure.
            </p>
          )}
        </section>
        <div>
          <Surfaces />
          <HallAreas />
          <StageFields />
        </div>
      </div>
    </>
  );
}
