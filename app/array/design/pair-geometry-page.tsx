import { useMemo } from 'react';
import { useStore } from 'zustand';
import { useGrouping } from '../../parts/groups';
import { techniqueName, standardOf, STANDARDS, standardTechnique } from '../../../core/arrays';
import {
  holdingOf,
  holdingText,
  judgePicture,
  pictureText,
  standardSetUp,
  tapeTolerances,
  usualTolerances,
  type ToleranceResult,
  type Tolerances,
} from '../../../core/analysis';
import { recordingAngleRange, MODELS, leadingModel } from '../../../core/localisation';
import { isKnown, type MicArray } from '../../../core/session';
import {
  angleText,
  formatNumber,
  lengthText,
  speedOfSound,
  type UnitSystem,
} from '../../../core/units';
import { ChoiceField } from '../../parts/fields';
import { FormulaLink } from '../../parts/formula-link';
import { RecordingAngleTable } from '../../parts/recording-angle-table';
import { useSettled } from '../../figures/use-settled';
import { changeArray, setTechnique } from '../../document/edits';
import { edit } from '../../document/session-store';
import { useFigures, useFindings } from '../../figures/figures';
import { usePlan } from '../../document/use-session';
import { useTask } from '../../workers/use-task';
import { panelStore } from '../../view/panels';
import { MidSideDrawing } from './mid-side-drawing';
import { ArrayDrawing, SideView } from './pair-geometry-drawing';
import { RiggerView } from './rigger-view';
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
  const { venue } = usePlan();
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

const spacingText = (metres: number, units: UnitSystem): string =>
  units === 'metric' ? `${formatNumber(metres * 100, 0)} cm` : lengthText(metres, units, 'bar');

/** What the array is usually set to, as it stands on the drawing. */
function toleranceText(array: MicArray, units: UnitSystem): { spacing: string; angle: string } {
  const { spacingM, angleDeg } = tapeTolerances(array);
  return { spacing: `± ${spacingText(spacingM, units)}`, angle: `± ${angleDeg}°` };
}

/** The same in a sentence: nothing is said of a spacing that there is none of. */
function riggedTo(
  { technique }: MicArray,
  { spacingM, angleDeg, sensitivityDb }: Tolerances,
  units: UnitSystem,
): string {
  const spacing =
    technique.kind === 'mid-side' || technique.kind === 'single'
      ? ''
      : `±${spacingText(spacingM, units)}, `;
  return `Rigged to ${spacing}±${angleDeg}°, ±${formatNumber(sensitivityDb, 1)} dB and ±5 °C`;
}

/** What an ordinary set-up makes of it, computed when the hand rests. */
function useTolerance(array: MicArray): { value: ToleranceResult | null; busy: boolean } {
  const session = usePlan();
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
  const session = usePlan();
  const { sources, settings } = session;
  const { halfDeg, decisive, effectPct, images } = result;
  const tolerances = usualTolerances(session, array);
  const widest = sources.reduce<{ name: string; pct: number } | null>((most, { id, name }) => {
    const range = images[id];
    const pct = range ? (range.high - range.low) * 100 : 0;
    return pct > (most?.pct ?? 0) ? { name, pct } : most;
  }, null);
  return (
    <p className={`pt-2 ${busy ? 'opacity-50' : ''}`} aria-label="Tolerance" role="status">
      {riggedTo(array, tolerances, settings.units)}, nine times in ten:{' '}
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

/** What it holds and what the players need, and what that makes of the picture. */
function Answer({ array }: { array: MicArray }) {
  const session = usePlan();
  const { figures } = useFigures();
  const judgement = useMemo(() => judgePicture(session, array), [session, array]);
  if (!figures || !isKnown(array)) return null;
  return (
    <p role="status" aria-label="Answer" className="pb-1 text-[15px] font-semibold">
      {holdingText(holdingOf(figures, session.settings.model))}{' '}
      <span className="text-muted text-[13px] font-normal">
        {pictureText(session, judgement, figures.own.length)}
      </span>
    </p>
  );
}

/** The recording angle in every model, and how steep each is at the centre: on demand. */
function AllModels() {
  const { settings } = usePlan();
  const { figures } = useFigures();
  const leading = leadingModel(figures?.farField ?? null, settings.model);
  const open = useStore(panelStore, (state) => state.modelsOpen);
  return (
    <section aria-label="All models" className="pt-2">
      <button
        className="btn btn-sm font-normal"
        aria-expanded={open}
        onClick={() => panelStore.setState({ modelsOpen: !open })}
      >
        Recording angle in all models
      </button>
      {open && (
        <>
          <div className="grid grid-cols-[repeat(auto-fit,minmax(min(370px,100%),1fr))] gap-x-8 gap-y-4 pt-3">
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
        </>
      )}
    </section>
  );
}

/** The array at the scale of its bar, its answer in a sentence, and its tolerance. */
export function PairGeometryPage({ array }: { array: MicArray }) {
  const { settings, sources } = usePlan();
  const { figures, missing } = useFigures();
  const { badges } = useGrouping(sources);
  const { value, busy } = useTolerance(array);
  const { technique } = array;
  const named = ['near-coincident', 'coincident', 'spaced'].includes(techniqueName(technique));
  const players = (figures?.own ?? []).map(({ id, azimuthDeg }) => ({
    id,
    name: sources.find((source) => source.id === id)?.name ?? '',
    hue: badges.get(id)?.group.hue ?? 'var(--muted)',
    deg: azimuthDeg,
  }));
  return (
    <div className="flex min-h-full flex-col">
      <Answer array={array} />
      {named && <Presets array={array} />}
      <div className="flex min-h-[330px] flex-1">
        {technique.kind === 'pair' ? (
          <RiggerView
            array={array}
            pair={technique}
            units={settings.units}
            halfDeg={figures?.halfDeg(settings.model) ?? null}
            players={players}
            tolerance={
              value ? { ...toleranceText(array, settings.units), decisive: value.decisive } : null
            }
          />
        ) : technique.kind === 'mid-side' ? (
          <div className="relative flex-1 pt-2">
            <div className="absolute top-0 left-0">
              <SideView array={array} units={settings.units} />
            </div>
            <MidSideDrawing technique={technique} />
          </div>
        ) : (
          <ArrayDrawing array={array} units={settings.units} />
        )}
      </div>
      <MissingNumber array={array} />
      {missing !== null && <p className="text-error pb-1">No figures: {missing}</p>}
      {value && <Tolerance array={array} result={value} busy={busy} />}
      <AllModels />
      <CapsuleOffset array={array} />
    </div>
  );
}
