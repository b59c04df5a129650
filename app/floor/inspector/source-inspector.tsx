import { fieldKey } from '../../view/validity';
import { OctagonAlert, TriangleAlert } from 'lucide-react';
import {
  instrumentFields,
  instrumentOf,
  INSTRUMENTS,
  renamedFor,
  seenWidth,
} from '../../../core/ensembles';
import { modelsIn } from '../../../core/localisation';
import type { Source } from '../../../core/session';
import {
  angleText,
  formatNumber,
  formatSigned,
  formatLength,
  lengthText,
  shiftText,
} from '../../../core/units';
import { ChoiceField, Readout, TextField } from '../../parts/fields';
import { FormulaLink } from '../../parts/formula-link';
import { GLOSSARY } from '../../parts/glossary';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, lengthKind, levelKind, plainNumberKind } from '../../parts/quantity-kinds';
import { changeSource } from '../../document/edits';
import { Presets } from './presets';
import { useFigures, useFindings } from '../../figures/figures';
import { edit } from '../../document/session-store';
import { settle } from '../../document/things';
import { selectMany } from '../../view/choice';
import { useSession } from '../../document/use-session';
import {
  CoverageField,
  PiecesButton,
  StateFields,
  SurroundingFigures,
  WantedPlace,
  WideFields,
  Wishes,
} from './source-details';

type NumberField = 'x' | 'y' | 'z' | 'facingDeg' | 'widthM' | 'depthM' | 'levelDb' | 'q';

function SourceFields({ source }: { source: Source }) {
  const { sources, settings } = useSession();
  const { units } = settings;
  const { bySource, array } = useFigures();
  const commit = (change: Partial<Source>) => edit(changeSource(source.id, change));
  const field = (
    name: NumberField,
    label: string,
    kind: Parameters<typeof QuantityField>[0]['kind'],
  ) => ({
    label,
    kind,
    fieldKey: fieldKey('source', source.id, name),
    value: source[name],
    onCommit: (value: number | null) => value !== null && commit({ [name]: value }),
  });
  const position = lengthKind('positionM', units);
  const atCapsule = bySource.get(source.id)?.atCapsule
    ? `At a capsule of ${array?.name ?? 'the array'}: keep at least 1 cm away, or nothing can be computed.`
    : null;
  return (
    <>
      <TextField
        label="Name"
        value={source.name}
        most={200}
        required
        onCommit={(name) => commit({ name })}
      />
      <TextField
        label="Section"
        value={source.group}
        most={200}
        onCommit={(group) => commit({ group })}
      />
      <ChoiceField
        label="Instrument"
        value={instrumentOf(source.kind)?.kind ?? ''}
        options={[
          ...(instrumentOf(source.kind) ? [] : [{ value: '', label: source.kind || 'not said' }]),
          ...INSTRUMENTS.map(({ kind, name }) => ({ value: kind, label: name })),
        ]}
        onChange={(kind) => {
          const floorM = source.z - (instrumentOf(source.kind)?.heightM ?? source.z);
          const fields = instrumentFields(kind);
          commit({
            ...fields,
            ...renamedFor(source, kind, sources),
            z: settle((fields.z ?? source.z) + floorM),
          });
        }}
      />
      <QuantityField {...field('x', 'Right of centre', position)} remark={atCapsule} />
      <QuantityField {...field('y', 'Upstage of edge', position)} />
      <QuantityField {...field('z', 'Sounding height', position)} />
      <QuantityField {...field('facingDeg', 'Plays towards', angleKind('azimuthDeg'))} />
      <QuantityField {...field('widthM', 'Sounding width', lengthKind('widthM', units))} />
      {source.widthM > 0 && (
        <QuantityField {...field('depthM', 'Sounding depth', lengthKind('widthM', units))} />
      )}
      <QuantityField {...field('levelDb', 'Level at 1 m', levelKind('levelDb'))} />
      <QuantityField
        {...field('q', 'Directivity factor Q', plainNumberKind('q'))}
        about={GLOSSARY.q}
      />
      <WideFields source={source} />
      <StateFields source={source} />
      <CoverageField source={source} />
    </>
  );
}

function AtTheArray({ source }: { source: Source }) {
  const { units } = useSession().settings;
  const { bySource, array, missing } = useFigures();
  const figures = bySource.get(source.id);
  const seen = array && source.widthM > 0 ? seenWidth(source, array) : null;
  const louder = figures?.icldDb ?? null;
  const earlier = figures?.ictdMs ?? null;
  const sideOf = (value: number | null) => (value !== null && value < 0 ? 'Left' : 'Right');
  const size = (value: number | null) => (value === null ? null : Math.abs(value));
  return (
    <>
      <h3 className="pt-4 pb-1 text-[14px]">At {array?.name ?? 'the array'}</h3>
      <FormulaLink to="cues">How it is computed</FormulaLink>
      {missing !== null && <p className="text-muted">No figures: {missing}</p>}
      <Readout label="Distance" {...formatLength(figures?.distanceM, units)} />
      <Readout label="On the plan" {...formatLength(figures?.planDistanceM, units)} />
      {seen && (
        <Readout
          label="Seen from there"
          number={`${lengthText(seen.widthM, units)} wide, ${angleText(seen.angleDeg)}`}
        />
      )}
      <Readout
        label="Angle off the aim"
        number={angleText(size(figures?.azimuthDeg ?? null))}
        unit={figures ? (figures.azimuthDeg < 0 ? 'L' : 'R') : ''}
      />
      <Readout
        label={`${sideOf(louder)} louder by`}
        number={formatNumber(size(louder), 1)}
        unit="dB"
      />
      <Readout
        label={`${sideOf(earlier)} earlier by`}
        number={formatNumber(size(earlier), 2)}
        unit="ms"
      />
      <Readout
        label="Direct to room"
        number={formatSigned(figures?.directToReverberantDb, 1)}
        unit={figures?.directToReverberantDb == null ? '' : 'dB'}
      />
      {figures && !figures.atCapsule && figures.directToReverberantDb === null && (
        <p className="text-muted py-1 text-[12.5px]">
          Give the hall’s size and reverberation time in Brief for this figure.
        </p>
      )}
    </>
  );
}

function BetweenTheLoudspeakers({ source }: { source: Source }) {
  const { settings } = useSession();
  const { bySource, figures: all } = useFigures();
  const { findings } = useFindings();
  const figures = bySource.get(source.id);
  const mine = findings.filter(({ sourceIds }) => sourceIds.includes(source.id));
  const models = modelsIn(settings).filter(({ id, levelOnly }) => !levelOnly || all?.farField[id]);
  return (
    <>
      <h3 className="pt-4 pb-1 text-[14px]">Between the loudspeakers</h3>
      <FormulaLink to="models-from-cues-to-a-place">What the models hold</FormulaLink>
      {models.map(({ id, name }) => (
        <Readout
          key={id}
          label={id === settings.model ? `${name} (leads)` : name}
          number={figures?.antiphase ? 'antiphase' : shiftText(figures?.image?.[id]?.shift)}
        />
      ))}
      <WantedPlace source={source} />
      {mine.map(({ code, severity, message }) => (
        <p key={code + message} className="flex gap-2 pt-3">
          {severity === 'fault' ? (
            <OctagonAlert size={16} className="text-error mt-0.5 shrink-0" aria-label="Fault" />
          ) : (
            <TriangleAlert
              size={16}
              className="text-warning mt-0.5 shrink-0"
              aria-label="Caution"
            />
          )}
          <span>{message}</span>
        </p>
      ))}
    </>
  );
}

/** From one player to all of its section, whose figures then stand in the inspector. */
function WholeSection({ source }: { source: Source }) {
  const { sources, sections } = useSession();
  const section = sections.find(({ id }) => id === source.sectionId);
  if (!section) return null;
  const members = sources.filter(({ sectionId }) => sectionId === section.id);
  return (
    <button
      className="btn btn-sm mt-2 font-normal"
      onClick={() => selectMany(members.map(({ id }) => ({ kind: 'source' as const, id })))}
    >
      All {members.length} of {section.name}: arcs, rows, pitch
    </button>
  );
}

/** One player: place and sound to be typed, what the array makes of it to be read. */
export function SourceInspector({ source }: { source: Source }) {
  return (
    <>
      <div className="flex items-baseline justify-between pb-2">
        <h2 className="truncate text-[17px]" title={source.name}>
          {source.name}
        </h2>
        <span className="text-muted shrink-0">player</span>
      </div>
      <SourceFields source={source} />
      <PiecesButton source={source} />
      {source.sectionId !== '' && <WholeSection source={source} />}
      <AtTheArray source={source} />
      <BetweenTheLoudspeakers source={source} />
      <SurroundingFigures source={source} />
      <Presets key={source.id} source={source} />
      <Wishes source={source} />
    </>
  );
}
