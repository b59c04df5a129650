import { useMemo } from 'react';
import { techniqueName, standardOf, STANDARDS, standardTechnique } from '../../../core/arrays';
import {
  standardSetUp,
  usualTolerances,
  type ToleranceResult,
  type Tolerances,
} from '../../../core/analysis';
import { recordingAngleRange, MODELS, leadingModel } from '../../../core/localisation';
import { isKnown, type MicArray } from '../../../core/session';
import { angleText, formatNumber, speedOfSound } from '../../../core/units';
import { ChoiceField } from '../../parts/fields';
import { FormulaLink } from '../../parts/formula-link';
import { RecordingAngleTable } from '../../parts/recording-angle-table';
import { useSettled } from '../../figures/use-settled';
import { changeArray, setTechnique } from '../../document/edits';
import { edit } from '../../document/session-store';
import { useFigures, useFindings } from '../../figures/figures';
import { useSession } from '../../document/use-session';
import { useTask } from '../../workers/use-task';
import { PairGeometryDrawing } from './pair-geometry-drawing';
import { CapsuleOffset } from '../behaviour/capsule-offset';

function CentreSlopes() {
  const { figures } = useFigures();
  return (
    <p className="text-muted pt-2 text-[12.5px]">
      At the centre 1° of the ensemble moves the image by{' '}
      {MODELS.flatMap(({ id, name }) => {
        const slope = figures?.centreSlope[id];
        return slope === null || slope === undefined
          ? []
          : `${formatNumber(slope * 100, 1)} % (${name})`;
      }).join(', ') || '—'}
      . <FormulaLink to="recording-angle">Formulas and sources</FormulaLink>
    </p>
  );
}

/** The named standards as a beginning; one that was altered keeps its name, and says so. */
function Presets({ array }: { array: MicArray }) {
  const { findings } = useFindings();
  const exact = standardOf(array.technique);
  const kept = exact ?? standardSetUp(array);
  const mismatch = findings.find(
    ({ code, arrayId }) => code === 'standard-mismatch' && arrayId === array.id,
  );
  return (
    <div className="w-72">
      <ChoiceField
        label="Named standard"
        value={kept?.name ?? ''}
        options={[
          { value: '', label: 'none' },
          ...STANDARDS.map(({ name }) => ({
            value: name,
            label: name === kept?.name && !exact ? `${name}, altered` : name,
          })),
        ]}
        onChange={(name) => {
          const chosen = STANDARDS.find((entry) => entry.name === name);
          if (chosen) setTechnique(array, standardTechnique(chosen));
          else edit(changeArray(array.id, { standard: '' }));
        }}
      />
      {mismatch && <p className="text-warning py-1 text-[12.5px]">{mismatch.message}</p>}
    </div>
  );
}

/** While spacing or angle is missing: never a guess, but the range, and the question. */
function MissingNumber({ array }: { array: MicArray }) {
  const { venue } = useSession();
  const { technique } = array;
  if (technique.kind !== 'pair') return null;
  const lacks = (name: MicArray['missing'][number]) => array.missing.includes(name);
  const spacing = lacks('spacingM');
  const angle = lacks('includedAngleDeg');
  if (spacing === angle) return null;
  const { ranges } = recordingAngleRange(
    technique.pattern,
    spacing ? null : technique.spacingM,
    angle ? null : technique.includedAngleDeg,
    speedOfSound(venue.temperatureC),
  );
  return (
    <div role="status" aria-label="Missing number" className="border-warning my-2 border-l-2 pl-3">
      <p className="font-semibold">
        {spacing ? 'Which spacing?' : 'Which included angle?'} Without it there is only a range.
      </p>
      {MODELS.flatMap(({ id, name }) => {
        const range = ranges[id];
        if (!range) return [];
        const most =
          range.maxHalfDeg === null ? 'never reached' : `±${angleText(range.maxHalfDeg)}`;
        return (
          <p key={id}>
            {name}: from ±{angleText(range.minHalfDeg)} to {most}
          </p>
        );
      })}
    </div>
  );
}

const DIMENSIONS = {
  spacingM: 'the spacing',
  angleDeg: 'the included angle',
  sensitivityDb: 'the match of the sensitivities',
  temperatureC: 'the temperature',
} as const;

/** What the array is usually set to, as it stands on the drawing. */
function toleranceText(array: MicArray): { spacing: string; angle: string } {
  const { spacingM, angleDeg } = usualTolerances(array);
  return { spacing: `± ${formatNumber(spacingM * 100, 0)} cm`, angle: `± ${angleDeg}°` };
}

/** The same in a sentence: nothing is said of a spacing that there is none of. */
function riggedTo({ technique }: MicArray, { spacingM, angleDeg }: Tolerances): string {
  const spacing =
    technique.kind === 'mid-side' || technique.kind === 'single'
      ? ''
      : `±${formatNumber(spacingM * 100, 0)} cm, `;
  return `Rigged to ${spacing}±${angleDeg}°, ±1 dB and ±5 °C`;
}

/** What an ordinary set-up makes of it, computed when the hand rests. */
function useTolerance(array: MicArray): { value: ToleranceResult | null; busy: boolean } {
  const session = useSession();
  const rested = useSettled(session, 250);
  const { id } = array;
  const known = isKnown(array);
  const ask = useMemo(() => (known ? { session: rested, arrayId: id } : null), [rested, id, known]);
  const figure = useTask('tolerance', ask);
  return { value: figure.value, busy: figure.busy || rested !== session };
}

function Tolerance({
  array,
  result,
  busy,
}: {
  array: MicArray;
  result: ToleranceResult;
  busy: boolean;
}) {
  const { sources } = useSession();
  const { halfDeg, decisive, effectPct, images } = result;
  const widest = sources.reduce<{ name: string; pct: number } | null>((most, { id, name }) => {
    const range = images[id];
    const pct = range ? (range.high - range.low) * 100 : 0;
    return pct > (most?.pct ?? 0) ? { name, pct } : most;
  }, null);
  return (
    <p className={`pt-2 ${busy ? 'opacity-50' : ''}`} aria-label="Tolerance" role="status">
      {riggedTo(array, usualTolerances(array))}, nine times in ten:{' '}
      <strong>
        {halfDeg
          ? `±${angleText(halfDeg.low)} to ±${angleText(halfDeg.high)}`
          : 'the loudspeaker is not always reached'}
      </strong>
      .{' '}
      {sources.length > 0 && (
        <>
          Most is due to <strong>{DIMENSIONS[decisive]}</strong> (
          {formatNumber(effectPct[decisive], 1)} % of the images on average)
          {widest && `; ${widest.name} wanders most, over ${formatNumber(widest.pct, 0)} %`}.
        </>
      )}{' '}
      <span className="text-muted">
        {array.technique.kind === 'pair' ? '' : 'The recording angle is of the array as planned. '}
        {result.draws.toLocaleString('en-GB')} draws.
      </span>
    </p>
  );
}

/** The array at the scale of its bar, with its recording angles and tolerance. */
export function PairGeometryPage({ array }: { array: MicArray }) {
  const { settings } = useSession();
  const { figures, missing } = useFigures();
  const leading = leadingModel(figures?.farField ?? null, settings.model);
  const { value, busy } = useTolerance(array);
  const named = ['near-coincident', 'coincident', 'spaced'].includes(
    techniqueName(array.technique),
  );
  return (
    <div className="flex min-h-full flex-col">
      {named && <Presets array={array} />}
      <div className="flex min-h-[230px] flex-1">
        <PairGeometryDrawing
          array={array}
          units={settings.units}
          tolerance={value ? { ...toleranceText(array), decisive: value.decisive } : null}
        />
      </div>
      <MissingNumber array={array} />
      {missing !== null && <p className="text-error pb-1">No figures: {missing}</p>}
      {value && <Tolerance array={array} result={value} busy={busy} />}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(370px,1fr))] gap-x-8 gap-y-4 pt-3">
        <RecordingAngleTable
          caption="Recording angle, distant sources"
          angles={figures?.farField}
          leading={leading}
        />
        <RecordingAngleTable
          caption="Recording angle, in place"
          angles={figures?.inPlace}
          leading={leading}
        />
      </div>
      <CentreSlopes />
      <CapsuleOffset array={array} />
    </div>
  );
}
