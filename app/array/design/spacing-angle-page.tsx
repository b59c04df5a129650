import { useMemo, useState } from 'react';
import { patternAOf, type Pattern } from '../../../core/acoustics';
import {
  asPair,
  contextOf,
  judgePicture,
  nearestFit,
  pictureText,
  VERDICT_WORDS,
  type FieldRow,
} from '../../../core/analysis';
import { farField, prepareArray, recordingAngles, speakingModel } from '../../../core/localisation';
import { playersOf } from '../../../core/prepare/for-whom';
import { isKnown, type MicArray, type SessionTechnique } from '../../../core/session';
import { angleText, capitalised, lengthText, speedOfSound } from '../../../core/units';
import { ChartFrame } from '../../charts/chart-frame';
import { setTechnique } from '../../document/edits';
import { usePlan } from '../../document/use-session';
import { useFigures } from '../../figures/figures';
import { useSettled } from '../../figures/use-settled';
import { CheckField } from '../../parts/fields';
import { patternWords } from '../../parts/technique-text';
import { useTask } from '../../workers/use-task';
import { Contours } from './contours';
import { FieldsDrawing, MOST_DEG } from './fields-drawing';

type Pair = Extract<SessionTechnique, { kind: 'pair' }>;

/** A spacing that holds the present pair with room to move, in coarse steps, m. */
function mostSpacing(pattern: Pattern, spacingM: number): number {
  const usual = patternAOf(pattern) > 0.9 ? 1.2 : 0.6;
  if (spacingM <= usual) return usual;
  return Math.min(50, Math.ceil(Math.ceil(spacingM * 2) * 0.75));
}

/** So many players are looked at on a fine grid of angles, more on a coarse one. */
const MANY = 80;
const anglesFor = (players: number): number[] => {
  const stepDeg = players > MANY ? 7.5 : 3;
  return Array.from({ length: MOST_DEG / stepDeg + 1 }, (_, i) => i * stepDeg);
};

/** The fields of a pair where it stands: asked anew when anything but its own two figures changed. */
function useFields(array: MicArray, pair: Pair, mostM: number) {
  const { sources, brief, settings, venue } = usePlan();
  const { pattern } = pair;
  const bare: Pair = { kind: 'pair', pattern, spacingM: 0, includedAngleDeg: 0 };
  // The array's own spacing and angle are what the fields are about: they change no question.
  const text = JSON.stringify({ ...array, missing: [], technique: bare });
  const asked = useMemo(() => {
    const placed = JSON.parse(text) as MicArray & { technique: Pair };
    return {
      session: { sources, brief, settings, venue },
      array: placed,
      pair: placed.technique,
      mostM,
      anglesDeg: anglesFor(sources.length),
    };
  }, [text, sources, brief, settings, venue, mostM]);
  return useTask('pairFields', useSettled(asked, 80));
}

/** What the present pair makes of the picture, and the nearest one that fits. */
function Answer({
  array,
  pair,
  rows,
  mostM,
}: {
  array: MicArray;
  pair: Pair;
  rows: readonly FieldRow[] | null;
  mostM: number;
}) {
  const session = usePlan();
  const { speed } = contextOf(session);
  const judgement = useMemo(() => judgePicture(session, array), [session, array]);
  const rested = useSettled(session, 200);
  const near = useMemo(
    () =>
      rows && judgement.verdict !== 'fits' && rested === session
        ? nearestFit(session, array, pair, rows, mostM)
        : null,
    [rows, judgement, rested, session, array, pair, mostM],
  );
  const { units } = session.settings;
  const players = playersOf(array, session.sources, speed).length;
  if (!isKnown(array)) {
    return (
      <p role="status" aria-label="The present pair" className="text-[15px] font-semibold">
        {array.missing.includes('spacingM') ? 'Which spacing?' : 'Which included angle?'} Without it
        nothing is said of this pair; the fields show what each would make.
      </p>
    );
  }
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-x-4 pb-1">
      <p role="status" aria-label="The present pair" className="text-[15px] font-semibold">
        {pictureText(session, judgement, players)}
      </p>
      {near && (
        <button
          className="btn btn-sm font-normal"
          onClick={() =>
            setTechnique(array, {
              ...pair,
              spacingM: near.spacingM,
              includedAngleDeg: near.includedAngleDeg,
            })
          }
        >
          Take the nearest that fits: {lengthText(near.spacingM, units, 'bar')} at{' '}
          {angleText(near.includedAngleDeg)}
        </button>
      )}
      {rows && judgement.verdict !== 'fits' && !near && rested === session && players > 0 && (
        <p className="text-muted">
          No spacing and angle of this pattern fit from here: another place, or another pattern.
        </p>
      )}
    </div>
  );
}

/** Fields of what spacing and angle do to this ensemble, where the pair stands. */
export function SpacingAnglePage({ array }: { array: MicArray }) {
  const pair = array.technique.kind === 'pair' ? array.technique : null;
  if (!pair) {
    return (
      <p className="text-muted">
        These fields are for pairs of equal microphones: choose a spaced, near-coincident or
        coincident technique. Mid-side has its crossed equivalent on its own page.
      </p>
    );
  }
  return <Fields array={array} pair={pair} />;
}

/** A half angle with its name, in line. */
function Figure(props: { label: string; half: number | null; missing: string }) {
  const { label, half, missing } = props;
  return (
    <p>
      {label}{' '}
      <output aria-label={label} className="text-base-content font-semibold">
        {half === null ? missing : `±${angleText(half)}`}
      </output>
    </p>
  );
}

function Fields({ array, pair }: { array: MicArray; pair: Pair }) {
  const session = usePlan();
  const { settings, venue } = session;
  const { figures } = useFigures();
  const [contours, setContours] = useState(false);
  const [forms, setForms] = useState(false);
  const mostM = mostSpacing(pair.pattern, pair.spacingM);
  const fields = useFields(array, pair, mostM);
  const speed = speedOfSound(venue.temperatureC);
  const { id: model, name: modelName } = speakingModel(settings, false);
  const halfOf = (spacingM: number, deg: number): number | null => {
    const technique = asPair(array, pair, spacingM, deg).technique;
    const ready = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
    return recordingAngles(ready, farField(ready, speed), settings.own)[model]?.halfDeg ?? null;
  };
  const now = halfOf(pair.spacingM, pair.includedAngleDeg);
  const wantedDeg = figures?.ensemble ? figures.ensemble.angleDeg / 2 : null;
  const rows = (fields.value ?? []).flatMap(({ includedAngleDeg, runs }) =>
    runs.map(({ verdict, fromM, toM }) => [includedAngleDeg, fromM, toM, VERDICT_WORDS[verdict]]),
  );
  return (
    <ChartFrame
      title="What spacing and angle make of this ensemble"
      about={`${capitalised(patternWords(pair.pattern))}s where the pair stands, by the brief; ${modelName} model. Drag the point, or move it with the arrow keys.`}
      formula="fields-of-spacing-and-angle"
      header={['included angle °', 'from m', 'to m', 'picture']}
      rows={rows}
      fill
    >
      <Answer array={array} pair={pair} rows={fields.value} mostM={mostM} />
      <div className="text-muted flex flex-wrap items-center gap-x-6 pb-1 text-[12.5px]">
        <Figure label="Recording angle there" half={now} missing="not reached" />
        <Figure label="Half of the ensemble’s angle" half={wantedDeg} missing="—" />
        <CheckField
          label={model === 'own' ? 'Contours (consensus)' : 'Contours'}
          value={contours}
          onChange={setContours}
        />
        <CheckField label="Named forms" value={forms} onChange={setForms} />
        {fields.busy && <p>computing …</p>}
        {fields.error !== null && <p role="alert">{fields.error}</p>}
      </div>
      <FieldsDrawing
        array={array}
        pair={pair}
        rows={fields.value ?? []}
        mostM={mostM}
        forms={forms}
        over={(scales) =>
          contours && (
            <Contours
              pattern={pair.pattern}
              mostM={mostM}
              mostDeg={MOST_DEG}
              model={model}
              scales={scales}
            />
          )
        }
      />
    </ChartFrame>
  );
}
