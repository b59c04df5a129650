import { PATTERN_NAMES, patternAOf, patternNameOf, type Pattern } from '../../../core/acoustics';
import {
  delaysFromCentre,
  placeCapsules,
  stereoFoldDown,
  stripsOf,
  type MultichannelLayout,
} from '../../../core/arrays';
import { referenceOf } from '../../../core/ensembles';
import { BOUNDS, type MicArray } from '../../../core/session';
import { cosDeg, formatNumber, formatSigned, lengthText, speedOfSound } from '../../../core/units';
import { changeStrip } from '../../document/edits';
import { edit } from '../../document/session-store';
import { settle } from '../../document/things';
import { useSession } from '../../document/use-session';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, lengthKind, levelKind, panKind } from '../../parts/quantity-kinds';
import { patternWords } from '../../parts/technique-text';
import { fieldKey } from '../../view/validity';

const sideWord = (pan: number): string => (pan < 0 ? 'left' : pan > 0 ? 'right' : 'centre');

/** Where each microphone of a layout that is not up yet would be, and where it goes. */
export function CapsuleTable({ layout }: { layout: MultichannelLayout }) {
  const { settings, venue } = useSession();
  const delays = delaysFromCentre(layout, speedOfSound(venue.temperatureC));
  const fold = stereoFoldDown(layout);
  const bar = (m: number) => lengthText(m, settings.units, 'bar');
  return (
    <table className="ledger-table w-full" aria-label="Microphones of the form">
      <thead>
        <tr>
          <th>Microphone</th>
          <th className="num">right</th>
          <th className="num">ahead</th>
          <th className="num">up</th>
          <th>pattern</th>
          <th className="num">faces</th>
          <th className="num">from the centre</th>
          <th className="num">delay</th>
          <th>loudspeaker</th>
          <th className="num">in stereo</th>
        </tr>
      </thead>
      <tbody>
        {layout.capsules.map((capsule, i) => (
          <tr key={`${capsule.label}${i}`}>
            <th scope="row">{capsule.label}</th>
            {(['dx', 'dy', 'dz'] as const).map((axis) => (
              <td key={axis} className="num">
                {bar(capsule[axis])}
              </td>
            ))}
            <td>{patternWords(capsule.pattern)}</td>
            <td className="num">
              {formatSigned(capsule.azimuthDeg, 0)}°
              {capsule.elevationDeg !== 0 && `, ${formatSigned(capsule.elevationDeg, 0)}° up`}
            </td>
            <td className="num">{bar(delays[i]?.m ?? 0)}</td>
            <td className="num">{formatNumber(delays[i]?.ms ?? 0, 2)} ms</td>
            <td>{layout.loudspeakers[i]}</td>
            <td className="num">
              {sideWord(fold[i]?.pan ?? 0)}, {formatSigned(fold[i]?.gainDb ?? 0, 0)} dB
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type Custom = Extract<MicArray['technique'], { kind: 'custom' }>;
type Capsule = Custom['capsules'][number];

const changeCapsule = (arrayId: string, index: number, change: Partial<Capsule>): boolean =>
  edit((draft) => {
    const technique = draft.arrays.find(({ id }) => id === arrayId)?.technique;
    const target = technique?.kind === 'custom' ? technique.capsules[index] : undefined;
    if (target) Object.assign(target, change);
  });

/** Place, pattern, facing and route of each microphone as it stands, all to be typed. */
export function CapsuleFields({ array, technique }: { array: MicArray; technique: Custom }) {
  const session = useSession();
  const { units } = session.settings;
  const reference = referenceOf(session, array);
  const strips = stripsOf(technique, array.mix.capsules);
  const above = `above the ${reference?.surface ?? 'floor'}`;
  return (
    <table className="ledger-table tight w-full" aria-label="Microphones of the layout">
      <thead>
        <tr>
          <th>
            <span className="sr-only">Microphone</span>
          </th>
          {['right', 'ahead', 'up', above].map((name) => (
            <th key={name} className="num">
              {name}
            </th>
          ))}
          <th>pattern</th>
          {['faces', 'looks up', 'pan', 'level'].map((name) => (
            <th key={name} className="num">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {technique.capsules.map((capsule, index) => {
          const { label } = capsule;
          const key = (field: string) => fieldKey('array', array.id, `capsule${index}${field}`);
          const strip = strips[index];
          const set = (change: Partial<Capsule>) => void changeCapsule(array.id, index, change);
          return (
            <tr key={`${label}${index}`}>
              <th scope="row">{label}</th>
              {(['dx', 'dy', 'dz'] as const).map((axis) => (
                <td key={axis} className="num">
                  <QuantityField
                    bare
                    label={`${label} ${{ dx: 'right', dy: 'ahead', dz: 'up' }[axis]}`}
                    fieldKey={key(axis)}
                    kind={lengthKind('positionM', units, 'bar')}
                    value={capsule[axis]}
                    onCommit={(value) => value !== null && set({ [axis]: value })}
                  />
                </td>
              ))}
              <td className="num">
                <HeightField array={array} index={index} label={label} />
              </td>
              <td>
                <PatternChoice
                  label={`${label} pattern`}
                  value={capsule.pattern}
                  onChange={(pattern) => set({ pattern })}
                />
              </td>
              {(['azimuthDeg', 'elevationDeg'] as const).map((angle) => (
                <td key={angle} className="num">
                  <QuantityField
                    bare
                    label={`${label} ${angle === 'azimuthDeg' ? 'faces' : 'looks up'}`}
                    fieldKey={key(angle)}
                    kind={angleKind(angle)}
                    value={capsule[angle]}
                    onCommit={(value) => value !== null && set({ [angle]: value })}
                  />
                </td>
              ))}
              <td className="num">
                <QuantityField
                  bare
                  label={`${label} pan`}
                  fieldKey={key('pan')}
                  kind={panKind}
                  value={strip?.pan ?? 0}
                  onCommit={(pan) => pan !== null && edit(changeStrip(array.id, index, { pan }))}
                />
              </td>
              <td className="num">
                <QuantityField
                  bare
                  label={`${label} level`}
                  fieldKey={key('gain')}
                  kind={levelKind('gainDb')}
                  value={strip?.gainDb ?? 0}
                  onCommit={(gainDb) =>
                    gainDb !== null && edit(changeStrip(array.id, index, { gainDb }))
                  }
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** A pattern in a cell: the named ones; one by number stays until another is chosen. */
function PatternChoice(props: {
  label: string;
  value: Pattern;
  onChange: (pattern: Pattern) => void;
}) {
  const { label, value, onChange } = props;
  const name = patternNameOf(patternAOf(value));
  return (
    <select
      aria-label={label}
      className="select select-xs w-[112px] border-transparent bg-transparent font-semibold"
      value={name ?? ''}
      onChange={(event) => {
        const chosen = PATTERN_NAMES.find((pattern) => pattern === event.currentTarget.value);
        if (chosen) onChange(chosen);
      }}
    >
      {name === null && <option value="">{patternWords(value)}</option>}
      {PATTERN_NAMES.map((pattern) => (
        <option key={pattern}>{pattern}</option>
      ))}
    </select>
  );
}

/** A capsule so steeply tilted has no height that one of its own measures could set. */
const STEEPEST_COS = 0.2;

/** How high a capsule hangs, from the floor or from the surface that its array is measured from. */
function HeightField({ array, index, label }: { array: MicArray; index: number; label: string }) {
  const session = useSession();
  const { units } = session.settings;
  const reference = referenceOf(session, array);
  const fromM = reference?.heightM ?? 0;
  const heightM = settle((placeCapsules(array)[index]?.position.z ?? array.z) - fromM);
  const upright = cosDeg(array.tiltDeg);
  if (Math.abs(upright) < STEEPEST_COS) return lengthText(heightM, units, 'bar');
  const { min, max } = BOUNDS.positionM;
  const dzFor = (value: number): number => {
    const dz = array.technique.kind === 'custom' ? (array.technique.capsules[index]?.dz ?? 0) : 0;
    return settle(dz + (value - heightM) / upright);
  };
  return (
    <QuantityField
      bare
      label={`${label} above the ${reference?.surface ?? 'floor'}`}
      fieldKey={fieldKey('array', array.id, `capsule${index}height`)}
      kind={lengthKind('positionM', units, 'bar')}
      value={heightM}
      check={(value) =>
        dzFor(value) >= min && dzFor(value) <= max
          ? null
          : `Allowed: ${lengthText(min, units)} to ${lengthText(max, units)} from the array's centre.`
      }
      onCommit={(value) => value !== null && changeCapsule(array.id, index, { dz: dzFor(value) })}
    />
  );
}
