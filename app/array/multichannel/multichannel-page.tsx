import { techniqueFigures } from '../../parts/technique-text';
import { fieldKey } from '../../view/validity';
import { lazy, Suspense, useState } from 'react';
import type { Pattern } from '../../../core/acoustics';
import {
  boundaryPair,
  equalLayerM,
  fiveChannel,
  heightSpillDb,
  mixedPair,
  ringWithHeight,
  stereoFoldDown,
  threeMicTree,
  type MultichannelLayout,
} from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import { formatSigned, lengthText } from '../../../core/units';
import { PatternField } from '../../parts/array-fields';
import { ChoiceField, Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, lengthKind, levelKind } from '../../parts/quantity-kinds';
import { editReplacing, rebuilt } from '../../document/edits';
import { CapsuleFields, CapsuleTable } from './capsule-table';
import { LayoutPlan } from './layout-plan';
import { useSession } from '../../document/use-session';

// It brings the charts, which the first page does not need.
const CentreFill = lazy(() => import('./centre-fill').then((m) => ({ default: m.CentreFill })));

type Form = 'tree' | 'five' | 'ring' | 'mixed' | 'boundary';

const FORMS: readonly { value: Form; label: string }[] = [
  { value: 'tree', label: 'three-microphone tree' },
  { value: 'five', label: 'five channels' },
  { value: 'ring', label: 'ring, with height' },
  { value: 'mixed', label: 'pair of two patterns' },
  { value: 'boundary', label: 'boundary pair' },
];

interface Numbers {
  base: number;
  depth: number;
  rear: number;
  back: number;
  radius: number;
  layer: number;
  up: number;
  spacing: number;
  angle: number;
  count: '4' | '5' | '7';
  heights: '0' | '4';
  pattern: Pattern;
  other: Pattern;
  /** what the height layer has of its own */
  heightPattern: Pattern;
  heightGain: number;
  ringUp: number;
}

const START: Numbers = {
  base: 2,
  depth: 1.5,
  rear: 1.5,
  back: 1.5,
  radius: 0.3,
  layer: 1,
  up: 45,
  spacing: 0.3,
  angle: 60,
  count: '5',
  heights: '4',
  pattern: 'omni',
  other: 'cardioid',
  heightPattern: 'cardioid',
  heightGain: 0,
  ringUp: 0,
};

const LIMITS = {
  base: { min: 0.1, max: 10 },
  depth: { min: 0, max: 5 },
  rear: { min: 0.1, max: 10 },
  back: { min: 0, max: 20 },
  radius: { min: 0, max: 5 },
  layer: { min: 0, max: 5 },
  up: { min: 0, max: 90 },
  ringUp: { min: -90, max: 90 },
  spacing: { min: 0.1, max: 20 },
  angle: { min: 0, max: 360 },
} as const;

const FIELDS: Readonly<Record<Form, readonly (readonly [keyof typeof LIMITS, string])[]>> = {
  tree: [
    ['base', 'Left to right'],
    ['depth', 'Centre ahead by'],
  ],
  five: [
    ['base', 'Front left to right'],
    ['depth', 'Centre ahead by'],
    ['rear', 'Rear left to right'],
    ['back', 'Rear behind by'],
  ],
  ring: [
    ['radius', 'Radius'],
    ['ringUp', 'Ring looks up by'],
    ['layer', 'Height layer above by'],
    ['up', 'Height layer looks up by'],
  ],
  mixed: [
    ['spacing', 'Spacing'],
    ['angle', 'Included angle'],
  ],
  boundary: [['spacing', 'Spacing']],
};

function layoutOf(form: Form, n: Numbers): MultichannelLayout {
  switch (form) {
    case 'tree':
      return threeMicTree(n.base, n.depth, n.pattern);
    case 'five':
      return fiveChannel(n.base, n.depth, n.rear, n.back, n.pattern);
    case 'ring':
      return ringWithHeight(
        Number(n.count),
        n.radius,
        Number(n.heights),
        n.layer,
        n.up,
        n.pattern,
        { pattern: n.heightPattern, gainDb: n.heightGain },
        n.ringUp,
      );
    case 'mixed': {
      const { capsules } = mixedPair(n.pattern, n.other, n.spacing, n.angle);
      return { capsules: [...capsules], loudspeakers: ['L', 'R'] };
    }
    case 'boundary':
      return boundaryPair(n.spacing);
  }
}

function put(array: MicArray, was: string, form: Form, layout: MultichannelLayout): void {
  editReplacing(
    array,
    was,
    `${array.name} is now a ${FORMS.find(({ value }) => value === form)?.label}.`,
    rebuilt(
      array.id,
      {
        technique: { kind: 'custom', capsules: layout.capsules.map((capsule) => ({ ...capsule })) },
        ...(form === 'boundary' ? { z: 0 } : {}),
      },
      stereoFoldDown(layout).map((strip) => ({ ...strip })),
    ),
  );
}

interface FormFieldsProps {
  form: Form;
  numbers: Numbers;
  set: (change: Partial<Numbers>) => void;
  /** m */
  equalLayer: number;
}

/** What a form is made of. */
function FormFields({ form, numbers, set, equalLayer }: FormFieldsProps) {
  const { settings } = useSession();
  const length = lengthKind('positionM', settings.units);
  return (
    <>
      {form === 'ring' && (
        <>
          <ChoiceField
            label="Microphones in the ring"
            value={numbers.count}
            options={(['4', '5', '7'] as const).map((value) => ({ value, label: value }))}
            onChange={(count) => set({ count })}
          />
          <ChoiceField
            label="In the height layer"
            value={numbers.heights}
            options={(['0', '4'] as const).map((value) => ({ value, label: value }))}
            onChange={(heights) => set({ heights })}
          />
        </>
      )}
      {FIELDS[form].map(([name, label]) => {
        const kind =
          name === 'ringUp'
            ? angleKind('elevationDeg')
            : name === 'up' || name === 'angle'
              ? angleKind('includedAngleDeg')
              : length;
        const { min, max } = LIMITS[name];
        return (
          <QuantityField
            key={name}
            label={label}
            fieldKey={fieldKey('layout', '', name)}
            kind={kind}
            value={numbers[name]}
            check={(value) =>
              value >= min && value <= max
                ? null
                : `Allowed: ${min} to ${max}${kind === length ? ' m' : '°'}.`
            }
            onCommit={(value) => value !== null && set({ [name]: value })}
          />
        );
      })}
      {form === 'ring' && numbers.heights !== '0' && (
        <button
          className="btn btn-xs my-1"
          onClick={() => set({ layer: Math.round(equalLayer * 1000) / 1000 })}
        >
          Layer as far up as left and right are apart: {lengthText(equalLayer, settings.units)}
        </button>
      )}
      {form !== 'boundary' && (
        <PatternField
          label={form === 'mixed' ? 'Left pattern' : 'Pattern'}
          fieldKey={fieldKey('layout', '', 'pattern')}
          value={numbers.pattern}
          onChange={(pattern) => set({ pattern })}
        />
      )}
      {form === 'ring' && numbers.heights !== '0' && (
        <>
          <PatternField
            label="Pattern of the height layer"
            fieldKey={fieldKey('layout', '', 'heightPattern')}
            value={numbers.heightPattern}
            onChange={(heightPattern) => set({ heightPattern })}
          />
          <QuantityField
            label="Level of the height layer"
            fieldKey={fieldKey('layout', '', 'heightGain')}
            kind={levelKind('gainDb')}
            value={numbers.heightGain}
            onCommit={(heightGain) => heightGain !== null && set({ heightGain })}
          />
        </>
      )}
      {form === 'mixed' && (
        <PatternField
          label="Right pattern"
          fieldKey={fieldKey('layout', '', 'other')}
          value={numbers.other}
          onChange={(other) => set({ other })}
        />
      )}
    </>
  );
}

/** Trees, five channels, rings with height, mixed and boundary pairs: figures first, then put up. */
export function MultichannelPage({ array }: { array: MicArray }) {
  const { settings } = useSession();
  const [form, setForm] = useState<Form>('tree');
  const [numbers, setNumbers] = useState(START);
  const set = (change: Partial<Numbers>) => setNumbers((known) => ({ ...known, ...change }));
  const layout = layoutOf(form, numbers);
  const spill = heightSpillDb(layout, 0);
  const equalLayer = equalLayerM(Number(numbers.count), numbers.radius);
  const { technique } = array;
  return (
    <section aria-label="Larger arrays">
      {technique.kind === 'custom' && (
        <>
          <h2 className="pb-1 text-[14px]">{array.name} as it is</h2>
          <CapsuleFields array={array} technique={technique} />
          <Suspense>
            <CentreFill array={array} />
          </Suspense>
        </>
      )}
      <h2 className="pt-4 pb-1 text-[14px]">A form to begin from</h2>
      <div className="flex flex-wrap gap-10">
        <div className="w-80">
          <ChoiceField label="Form" value={form} options={FORMS} onChange={setForm} />
          <FormFields form={form} numbers={numbers} set={set} equalLayer={equalLayer} />
          {spill !== null && (
            <Readout
              label="Front sound in the height layer"
              number={formatSigned(spill, 1)}
              unit="dB"
            />
          )}
          {spill !== null && spill > -7 && (
            <p className="text-muted text-[12.5px]">
              Above about −7 dB the picture rises: face the layer up, take a narrower pattern there,
              or lower it.
            </p>
          )}
          <button
            className="btn btn-sm btn-primary mt-3"
            onClick={() => put(array, techniqueFigures(technique, settings.units), form, layout)}
          >
            Put it up as {array.name}
          </button>
          {form === 'boundary' && (
            <p className="text-muted pt-1 text-[12.5px]">
              Lies on the floor: its height becomes 0, and the floor makes no comb.
            </p>
          )}
        </div>
        <div className="min-w-[300px] flex-1">
          <LayoutPlan layout={layout} />
        </div>
      </div>
      <div className="overflow-x-auto pt-3">
        <CapsuleTable layout={layout} />
      </div>
    </section>
  );
}
