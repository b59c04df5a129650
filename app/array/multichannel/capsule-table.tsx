import {
  delaysFromCentre,
  placeCapsules,
  stereoFoldDown,
  type CustomCapsule,
  type MultichannelLayout,
} from '../../../core/arrays';
import { referenceOf } from '../../../core/ensembles';
import { BOUNDS, type MicArray } from '../../../core/session';
import { cosDeg, formatNumber, formatSigned, lengthText, speedOfSound } from '../../../core/units';
import { edit } from '../../document/session-store';
import { settle } from '../../document/things';
import { useSession } from '../../document/use-session';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { fieldKey } from '../../view/validity';

const sideWord = (pan: number): string => (pan < 0 ? 'left' : pan > 0 ? 'right' : 'centre');

/** Where each microphone of a layout is, in fields where it stands in the session. */
export function CapsuleTable({
  layout,
  array,
}: {
  layout: MultichannelLayout;
  array: MicArray | null;
}) {
  const session = useSession();
  const { settings, venue } = session;
  const reference = array && referenceOf(session, array);
  const delays = delaysFromCentre(layout, speedOfSound(venue.temperatureC));
  const fold = stereoFoldDown(layout);
  const { units } = settings;
  const bar = (m: number) => lengthText(m, units, 'bar');
  return (
    <table className="ledger-table w-full" aria-label="Microphones of the layout">
      <thead>
        <tr>
          <th>Microphone</th>
          <th className="num">right</th>
          <th className="num">ahead</th>
          <th className="num">up</th>
          {array && <th className="num">{`above the ${reference?.surface ?? 'floor'}`}</th>}
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
                {array ? (
                  <CapsuleField array={array} index={i} axis={axis} capsule={capsule} />
                ) : (
                  bar(capsule[axis])
                )}
              </td>
            ))}
            {array && (
              <td className="num">
                <HeightField array={array} index={i} label={capsule.label} />
              </td>
            )}
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
      onCommit={(value) =>
        value !== null &&
        edit((draft) => {
          const technique = draft.arrays.find(({ id }) => id === array.id)?.technique;
          const target = technique?.kind === 'custom' ? technique.capsules[index] : undefined;
          if (target) target.dz = dzFor(value);
        })
      }
    />
  );
}

function CapsuleField(props: {
  array: MicArray;
  index: number;
  axis: 'dx' | 'dy' | 'dz';
  capsule: CustomCapsule;
}) {
  const { array, index, axis, capsule } = props;
  const { units } = useSession().settings;
  return (
    <QuantityField
      bare
      label={`${capsule.label} ${{ dx: 'right', dy: 'ahead', dz: 'up' }[axis]}`}
      fieldKey={fieldKey('array', array.id, `capsule${index}${axis}`)}
      kind={lengthKind('positionM', units, 'bar')}
      value={capsule[axis]}
      onCommit={(value) =>
        edit((draft) => {
          const technique = draft.arrays.find(({ id }) => id === array.id)?.technique;
          const target = technique?.kind === 'custom' ? technique.capsules[index] : undefined;
          if (target && value !== null) target[axis] = value;
        })
      }
    />
  );
}
