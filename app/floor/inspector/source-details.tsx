import { fieldKey } from '../../view/validity';
import { useMemo } from 'react';
import { movementSensitivity, reflectionsAtArray } from '../../../core/analysis';
import {
  anatomyOf,
  hasPieces,
  offRadiatingSide,
  piecesWith,
  withLid,
  withState,
} from '../../../core/ensembles';
import { coverageAdvice } from '../../../core/planning';
import type { Constraint, Source } from '../../../core/session';
import { angleText, formatNumber, formatSigned, shiftText, distance } from '../../../core/units';
import { CheckField, ChoiceField, Readout, TextField } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { changeSource } from '../../document/edits';
import { joinPieces, splitPlayer } from '../../document/pieces';
import { useFigures } from '../../figures/figures';
import { edit } from '../../document/session-store';
import { useSession } from '../../document/use-session';

const change = (source: Source, part: Partial<Source>) => edit(changeSource(source.id, part));

/** What sounds at the ends of a wide source, and a piano's lid. */
export function WideFields({ source }: { source: Source }) {
  if (source.widthM === 0 && source.lid === 'none') return null;
  const ends = source.ends ?? { left: '', right: '' };
  return (
    <>
      {source.widthM > 0 && (
        <>
          <TextField
            label="Left end"
            value={ends.left}
            most={40}
            onCommit={(left) => change(source, { ends: { ...ends, left } })}
          />
          <TextField
            label="Right end"
            value={ends.right}
            most={40}
            onCommit={(right) => change(source, { ends: { ...ends, right } })}
          />
        </>
      )}
      {source.lid !== 'none' && (
        <ChoiceField
          label="Lid"
          value={source.lid}
          options={[
            { value: 'full-stick', label: 'full stick' },
            { value: 'short-stick', label: 'short stick' },
            { value: 'closed', label: 'closed' },
            { value: 'off', label: 'taken off' },
          ]}
          onChange={(lid) => change(source, withLid(source, lid))}
        />
      )}
    </>
  );
}

const PANELS: readonly (readonly [Source['openPanels'][number], string])[] = [
  ['top lid', 'Top lid open'],
  ['upper panel', 'Upper panel off'],
  ['lower panel', 'Lower panel off'],
];

/** How an instrument stands: panels and felt, with what they do to its level. */
export function StateFields({ source }: { source: Source }) {
  const upright = source.kind === 'upright piano';
  if (!upright && source.kind !== 'grand piano') return null;
  const box = (label: string, on: boolean, state: Parameters<typeof withState>[1]) => (
    <CheckField
      key={label}
      label={label}
      value={on}
      onChange={() => change(source, withState(source, state))}
    />
  );
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1 py-2" role="group" aria-label="State">
      {upright &&
        PANELS.map(([panel, label]) => {
          const open = source.openPanels.includes(panel);
          const others = source.openPanels.filter((name) => name !== panel);
          return box(label, open, { openPanels: open ? others : [...others, panel] });
        })}
      {box('Felt down', source.felt, { felt: !source.felt })}
      <p className="text-muted w-full text-[12.5px]">
        Each changes the level at 1 m by a rule of thumb; type what you hear on the day.
      </p>
    </div>
  );
}

/** A set of instruments taken apart into its pieces, and put together again. */
export function PiecesButton({ source }: { source: Source }) {
  const { sources } = useSession();
  const pieces = piecesWith(source, sources);
  if (pieces.length > 0) {
    return (
      <button className="btn btn-sm mt-2 font-normal" onClick={() => joinPieces(pieces)}>
        Put {source.pieceOf?.name} together again
      </button>
    );
  }
  if (!hasPieces(source)) return null;
  const count = anatomyOf(source)?.pieces.length ?? 0;
  return (
    <button className="btn btn-sm mt-2 font-normal" onClick={() => splitPlayer(source)}>
      Split into its {count} pieces
    </button>
  );
}

const SIDE_WORDS = {
  front: 'its front',
  right: 'its player’s right',
  left: 'its player’s left',
  behind: 'behind its player',
  up: 'up',
  'all round': 'all round',
} as const;

/** Which way it radiates, the nearest surface, and what a sway does to the image. */
export function SurroundingFigures({ source }: { source: Source }) {
  const session = useSession();
  const { array } = useFigures();
  const answer = useMemo(() => {
    if (!array) return null;
    const first = reflectionsAtArray(session, array, source).find(
      ({ surfaces }) => surfaces.length === 1,
    );
    if (!first) return null;
    // The same path without the pattern: distance and wall alone.
    const direct = distance(source, array);
    const omniDb = 20 * Math.log10(direct / Math.max(first.pathM, 0.01));
    return { ...first, patternDb: first.levelDb - omniDb };
  }, [session, array, source]);
  const sway = useMemo(
    () =>
      array
        ? movementSensitivity({ ...session, sources: [source] }, array, 0.2).find(
            ({ sourceId }) => sourceId === source.id,
          )
        : undefined,
    [session, array, source],
  );
  const off = array ? offRadiatingSide(source, array) : null;
  return (
    <>
      <h3 className="pt-4 pb-1 text-[14px]">Around it</h3>
      {off && (
        <>
          <Readout label={`Off ${SIDE_WORDS[off.side]}`} number={angleText(off.offDeg, 0)} />
          {off.offDeg > 60 && (
            <p className="text-muted py-1 text-[12.5px]">
              Brightest towards {SIDE_WORDS[off.side]}. Facing {angleText(off.facingForAxisDeg, 0)}{' '}
              it would meet the microphones.
            </p>
          )}
        </>
      )}
      {answer ? (
        <>
          <Readout
            label={`Strongest surface: ${answer.surfaces.join(', ')}`}
            number={`${answer.atMost ? '≤ ' : ''}${formatSigned(answer.levelDb, 1)}`}
            unit="dB"
          />
          <Readout label="after" number={formatNumber(answer.delayMs, 1)} unit="ms" />
          <Readout label="First notch" number={formatNumber(answer.firstNotchHz, 0)} unit="Hz" />
          <Readout
            label="of it by the pattern"
            number={formatSigned(answer.patternDb, 1)}
            unit="dB"
          />
        </>
      ) : (
        <p className="text-muted py-1 text-[12.5px]">
          Nearest surface: give the hall’s size and the datum’s place in Brief.
        </p>
      )}
      {sway && sway.from !== null && sway.to !== null && (
        <Readout
          label="Sway of ±20 cm"
          number={`${shiftText(sway.from)} to ${shiftText(sway.to)}`}
        />
      )}
    </>
  );
}

/** What the player asks for: sight lines, neighbours, rows. */
export function Wishes({ source }: { source: Source }) {
  const { sources, settings } = useSession();
  const others = sources.filter(({ id }) => id !== source.id);
  const wishes = (act: (constraints: Constraint[]) => void) =>
    edit((draft) => {
      const found = draft.sources.find(({ id }) => id === source.id);
      if (found) act(found.constraints);
    });
  const add = (wish: Constraint) => wishes((all) => void all.push(wish));
  const alter = (index: number, part: { sourceId?: string; mostM?: number }) =>
    wishes((all) => void (all[index] && Object.assign(all[index], part)));
  const [first] = others;
  return (
    <>
      <h3 className="pt-4 pb-1 text-[14px]">Wishes</h3>
      {source.constraints.map((wish, index) => (
        <div key={index} className="flex items-baseline gap-1">
          <div className="min-w-0 flex-1">
            {wish.kind === 'row' ? (
              <p className="ledger-row">Stays in its rows</p>
            ) : (
              <ChoiceField
                label={wish.kind === 'sees' ? 'Must see' : 'Stays near'}
                value={wish.sourceId}
                options={others.map(({ id, name }) => ({ value: id, label: name }))}
                onChange={(sourceId) => alter(index, { sourceId })}
              />
            )}
            {wish.kind === 'near' && (
              <QuantityField
                label="within"
                fieldKey={fieldKey('source', source.id, `wish${index}`)}
                kind={lengthKind('widthM', settings.units)}
                value={wish.mostM}
                onCommit={(mostM) => mostM !== null && alter(index, { mostM })}
              />
            )}
          </div>
          <button
            className="btn btn-ghost btn-xs"
            aria-label={`Drop wish ${index + 1}`}
            onClick={() => wishes((all) => void all.splice(index, 1))}
          >
            ×
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-1 pt-1">
        {first && (
          <>
            <button
              className="btn btn-xs font-normal"
              onClick={() => add({ kind: 'sees', sourceId: first.id })}
            >
              Must see …
            </button>
            <button
              className="btn btn-xs font-normal"
              onClick={() => add({ kind: 'near', sourceId: first.id, mostM: 1.5 })}
            >
              Stays near …
            </button>
          </>
        )}
        {source.sectionId !== '' && !source.constraints.some(({ kind }) => kind === 'row') && (
          <button className="btn btn-xs font-normal" onClick={() => add({ kind: 'row' })}>
            Stays in its rows
          </button>
        )}
      </div>
    </>
  );
}

/** One microphone or a pair: the advice, its reason, and the user's own decision. */
export function CoverageField({ source }: { source: Source }) {
  const session = useSession();
  const advice = coverageAdvice(session).find(({ sourceId }) => sourceId === source.id);
  if (!advice) return null;
  return (
    <>
      <ChoiceField
        label="If it gets its own"
        value={source.coverage ?? 'advice'}
        options={[
          { value: 'advice', label: `${advice.advice} (advice)` },
          { value: 'mono', label: 'mono, decided' },
          { value: 'stereo', label: 'stereo, decided' },
        ]}
        onChange={(value) => change(source, { coverage: value === 'advice' ? null : value })}
      />
      {source.coverage === null && <p className="text-muted py-1 text-[12.5px]">{advice.reason}</p>}
    </>
  );
}

/** Where the player should appear, against where it does. */
export function WantedPlace({ source }: { source: Source }) {
  const session = useSession();
  const band = session.brief.intent.bands.find(({ sourceId }) => sourceId === source.id);
  if (!band) return null;
  return (
    <Readout
      label="Wanted between"
      number={`${shiftText(band.fromPct / 100)} and ${shiftText(band.toPct / 100)}`}
    />
  );
}
