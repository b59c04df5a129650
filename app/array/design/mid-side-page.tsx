import { sum } from 'd3-array';
import { speedOfSound, clamp } from '../../../core/units';
import { fieldKey } from '../../view/validity';
import { useState } from 'react';
import { patternAOf } from '../../../core/acoustics';
import {
  crossedEquivalent,
  midSideEquivalent,
  sideGainUnderPanLaw,
  type ChannelStrip,
} from '../../../core/arrays';
import { arrayFigures, contextOf } from '../../../core/analysis';
import {
  farField,
  prepareArray,
  recordingAngles,
  leadingOf,
  stageIn,
  shiftIn,
} from '../../../core/localisation';
import type { MicArray, Session, SessionTechnique } from '../../../core/session';
import { angleText, formatNumber, formatSigned } from '../../../core/units';
import { PatternField } from '../../parts/array-fields';
import { ChoiceField, Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { levelKind } from '../../parts/quantity-kinds';
import { Nearest } from './nearest-mid-side';
import { changeTechnique, setTechnique } from '../../document/edits';
import { edit } from '../../document/session-store';
import { useSessionGesture } from '../../document/use-session-gesture';
import { useSession } from '../../document/use-session';
import { MidSideDrawing } from './mid-side-drawing';

type MidSide = Extract<SessionTechnique, { kind: 'mid-side' }>;

const PAN_LAWS = [
  { value: '0', label: '0 dB in the centre' },
  { value: '-3', label: '−3 dB in the centre' },
  { value: '-4.5', label: '−4.5 dB in the centre' },
  { value: '-6', label: '−6 dB in the centre' },
];

/** Width as at the desk: the side's fader against the mid's, in one undoable step a drag. */
function WidthControl({ array, technique }: { array: MicArray; technique: MidSide }) {
  const gesture = useSessionGesture();
  const { venue, settings } = useSession();
  const speed = speedOfSound(venue.temperatureC);
  const ready = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
  const half =
    leadingOf(recordingAngles(ready, farField(ready, speed)), settings.model)?.halfDeg ?? null;
  return (
    <label className="block py-2">
      <span className="flex justify-between">
        <span>Width: side against mid {formatSigned(technique.sideGainDb, 1)} dB</span>
        <span className="text-muted">
          recording angle {half === null ? 'not reached' : `±${angleText(half)}`}
        </span>
      </span>
      <input
        type="range"
        aria-label="Width"
        className="range range-xs w-full"
        min={-18}
        max={12}
        step={0.5}
        value={clamp(technique.sideGainDb, -18, 12)}
        onPointerDown={gesture.begin}
        onPointerUp={gesture.commit}
        onPointerCancel={gesture.cancel}
        onLostPointerCapture={gesture.commit}
        onChange={(event) => {
          const sideGainDb = Number(event.currentTarget.value);
          const change = changeTechnique(array.id, 'mid-side', { sideGainDb });
          if (gesture.active) gesture.edit(change);
          else edit(change);
        }}
      />
      <span className="text-muted flex justify-between text-[12px]">
        <span>narrow</span>
        <span>wide</span>
      </span>
    </label>
  );
}

const STRIP: ChannelStrip = { pan: 0, gainDb: 0, polarity: 1, delayMs: 0 };

interface Fault {
  name: string;
  array: (array: MicArray, technique: MidSide) => MicArray;
}

/** Side on two channels by hand, as a desk does it: the figure-eight twice, at one point. */
function byHand(array: MicArray, technique: MidSide, second: Partial<ChannelStrip>): MicArray {
  const azimuthDeg = technique.sidePositive === 'left' ? -90 : 90;
  const at = { dx: 0, dy: 0, dz: 0, elevationDeg: 0 };
  const side = { ...at, azimuthDeg, pattern: 'figure-eight' as const };
  // A mid in the centre of a constant-power pan is 3 dB down on each side: made up for here.
  const mid = { ...STRIP, gainDb: 20 * Math.log10(Math.SQRT2) };
  const level = { ...STRIP, gainDb: technique.sideGainDb };
  return {
    ...array,
    technique: {
      kind: 'custom',
      capsules: [
        { ...at, label: 'M', azimuthDeg: 0, pattern: technique.midPattern },
        { ...side, label: 'S+' },
        { ...side, label: 'S−' },
      ],
    },
    mix: {
      ...array.mix,
      capsules: [mid, { ...level, pan: -1 }, { ...level, pan: 1, polarity: -1, ...second }],
    },
  };
}

const FAULTS: readonly Fault[] = [
  { name: 'as it should be', array: (array, technique) => byHand(array, technique, {}) },
  {
    name: 'second side not inverted',
    array: (array, technique) => byHand(array, technique, { polarity: 1 }),
  },
  {
    name: 'second side panned to the centre',
    array: (array, technique) => byHand(array, technique, { pan: 0 }),
  },
  {
    name: 'second side 3 dB low',
    array: (array, technique) => byHand(array, technique, { gainDb: technique.sideGainDb - 3 }),
  },
  {
    name: 'lobe turned to the other side',
    array: (array, technique) =>
      byHand(
        array,
        { ...technique, sidePositive: technique.sidePositive === 'left' ? 'right' : 'left' },
        {},
      ),
  },
];

function faultRow(session: Session, fault: Fault, array: MicArray, technique: MidSide) {
  const figures = arrayFigures(fault.array(array, technique), session.sources, contextOf(session));
  const { model } = session.settings;
  const stage = stageIn(figures, model);
  const shifts = figures.sources.flatMap((source) => shiftIn(source, model) ?? []);
  const mean = sum(shifts) / Math.max(1, shifts.length);
  const leftmost = figures.sources.reduce<(typeof figures.sources)[number] | null>(
    (best, source) => (!best || source.azimuthDeg < best.azimuthDeg ? source : best),
    null,
  );
  const at = shiftIn(leftmost, model);
  return {
    name: fault.name,
    fill: stage ? `${formatNumber(stage.imageWidthPct, 0)} %` : 'no stable image',
    lean: `${formatSigned(mean * 100, 0)} %`,
    leftmost: at === null ? '—' : at < -0.02 ? 'left' : at > 0.02 ? 'right' : 'centre',
  };
}

function Faults({ array, technique }: { array: MicArray; technique: MidSide }) {
  const session = useSession();
  if (session.sources.length === 0) return null;
  return (
    <>
      <h2 className="pt-5 pb-1 text-[14px]">What goes wrong when</h2>
      <table className="ledger-table w-full max-w-2xl" aria-label="Faults of the patch">
        <thead>
          <tr>
            <th>Patch</th>
            <th className="num">image width</th>
            <th className="num">lean to the right</th>
            <th>leftmost player is heard</th>
          </tr>
        </thead>
        <tbody>
          {FAULTS.map((fault) => {
            const row = faultRow(session, fault, array, technique);
            return (
              <tr key={row.name}>
                <td>{row.name}</td>
                <td className="num">{row.fill}</td>
                <td className="num">{row.lean}</td>
                <td>{row.leftmost}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function Patch({ technique }: { technique: MidSide }) {
  const [law, setLaw] = useState('-3');
  const real = sideGainUnderPanLaw(technique.sideGainDb, Number(law));
  return (
    <div className="max-w-2xl">
      <h2 className="pt-5 pb-1 text-[14px]">At the desk</h2>
      <ol className="list-decimal space-y-1 pl-5">
        <li>Mid on one channel, panned to the centre.</li>
        <li>
          Side on two channels: the first panned hard left, the second hard right with inverted
          polarity. The positive lobe faces {technique.sidePositive}.
        </li>
        <li>
          Both side channels {formatSigned(technique.sideGainDb, 1)} dB against the mid, at exactly
          the same level: set them with a mono sum, in which the two sides must vanish. Then link
          their faders.
        </li>
      </ol>
      <ChoiceField label="The desk’s pan law" value={law} options={PAN_LAWS} onChange={setLaw} />
      <Readout
        label="Side against mid at the loudspeakers then"
        number={formatSigned(real, 1)}
        unit="dB"
      />
      {law !== '0' && (
        <p className="text-muted text-[12.5px]">
          The law lowers the mid on both sides but not the hard-panned sides: take the side down by{' '}
          {formatNumber(-Number(law), 1)} dB to keep the picture.
        </p>
      )}
    </div>
  );
}

/** Two figure-eights are mid-side or crossed, by how they are turned: what goes where then. */
function Turned() {
  return (
    <div className="max-w-2xl">
      <h2 className="pt-5 pb-1 text-[14px]">Turned by 45°</h2>
      <p>
        Two figure-eights at equal level turned by 45° on their stand are a crossed pair at 90°,
        with no decoder:
      </p>
      <ul className="list-disc space-y-1 py-1 pl-5">
        <li>turned to the right: the mid is right, the side is left;</li>
        <li>turned to the left: the mid is left, the side is right with inverted polarity.</li>
      </ul>
      <p className="text-muted text-[12.5px]">
        Is the decoder still on? Then the picture is wrong by 45°: take both side channels off
        first.
      </p>
    </div>
  );
}

/** Mid-side with its crossed equivalent, both ways; the nearest where there is none. */
export function MidSidePage({ array }: { array: MicArray }) {
  const { technique } = array;
  if (technique.kind === 'mid-side') {
    const crossed = crossedEquivalent(patternAOf(technique.midPattern), technique.sideGainDb);
    return (
      <section aria-label="Mid-side">
        <div className="flex flex-wrap gap-10">
          <div className="w-80">
            <PatternField
              label="Mid pattern"
              fieldKey={fieldKey('ms', array.id, 'mid')}
              value={technique.midPattern}
              onChange={(midPattern) => edit(changeTechnique(array.id, 'mid-side', { midPattern }))}
            />
            <QuantityField
              label="Side level against mid"
              fieldKey={fieldKey('ms', array.id, 'side')}
              kind={levelKind('gainDb')}
              value={technique.sideGainDb}
              onCommit={(sideGainDb) =>
                sideGainDb !== null && edit(changeTechnique(array.id, 'mid-side', { sideGainDb }))
              }
            />
            <WidthControl array={array} technique={technique} />
            <button
              className="btn btn-sm"
              onClick={() =>
                setTechnique(array, {
                  kind: 'pair',
                  pattern: Math.round(crossed.patternA * 1000) / 1000,
                  spacingM: 0,
                  includedAngleDeg: Math.round(crossed.includedAngleDeg * 10) / 10,
                })
              }
            >
              Make it the crossed pair
            </button>
          </div>
          <div className="min-w-[380px] flex-1">
            <MidSideDrawing technique={technique} />
          </div>
        </div>
        <Patch technique={technique} />
        {patternAOf(technique.midPattern) === 0 && <Turned />}
        <Faults array={array} technique={technique} />
      </section>
    );
  }
  const equivalent =
    technique.kind === 'pair' && technique.spacingM === 0
      ? midSideEquivalent(patternAOf(technique.pattern), technique.includedAngleDeg)
      : null;
  return (
    <section aria-label="Mid-side">
      {equivalent ? (
        <>
          <p className="pb-2">
            This crossed pair is the same as a mid of A {formatNumber(equivalent.midA, 3)} with the
            side at {formatSigned(equivalent.sideGainDb, 1)} dB.
          </p>
          <button
            className="btn btn-sm btn-primary"
            onClick={() =>
              setTechnique(array, {
                kind: 'mid-side',
                midPattern: Math.round(equivalent.midA * 1000) / 1000,
                sideGainDb: Math.round(equivalent.sideGainDb * 10) / 10,
                sidePositive: 'left',
              })
            }
          >
            Make it mid-side
          </button>
        </>
      ) : (
        <Nearest array={array} />
      )}
    </section>
  );
}
