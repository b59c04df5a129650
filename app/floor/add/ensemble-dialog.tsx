import { useEffect, useId, useMemo, useRef, useState } from 'react';
import {
  fromTemplate,
  INSTRUMENTS,
  playerGroups,
  playerMarks,
  type PlayerMark,
  sectionSources,
  TEMPLATES,
} from '../../../core/ensembles';
import { isUntouchedPair, sectionFrom, type Section, type Source } from '../../../core/session';
import { ChoiceField, TextField } from '../../parts/fields';
import { addEnsemble } from '../../document/edits';
import { newId } from '../../document/new-id';
import { useSession } from '../../document/use-session';
import { SectionFields } from '../inspector/section-fields';
import { SectionReadouts } from '../inspector/section-readouts';

interface Props {
  page: 'template' | 'section';
  onClose: () => void;
}

/** Ids for what is only looked at. */
function counter(): () => string {
  let next = 0;
  return () => `${(next += 1)}`;
}

const LETTER_PX = 6.4;

/** The marks of the players, or their numbers alone where these fit; null where neither does. */
function labelsFor(
  sources: readonly Source[],
  marks: ReadonlyMap<string, PlayerMark>,
  scale: number,
): ReadonlyMap<string, string> | null {
  let closest = Infinity;
  for (const [i, a] of sources.entries()) {
    for (const b of sources.slice(i + 1)) {
      closest = Math.min(closest, Math.max(Math.abs(a.x - b.x), 2 * Math.abs(a.y - b.y)) * scale);
    }
  }
  const fitting = (of: (mark: PlayerMark) => string) => {
    const texts = new Map([...marks].map(([id, mark]) => [id, of(mark)]));
    const longest = Math.max(...[...texts.values()].map(({ length }) => length));
    return closest >= longest * LETTER_PX ? texts : null;
  };
  return fitting(({ short }) => short) ?? fitting(({ short, number }) => number || short);
}

/** Where the players will stand, with the marks that they will have, fitted into a box. */
function Preview({ sources, label }: { sources: readonly Source[]; label: string }) {
  const size = { width: 270, height: 170 };
  const marks = useMemo(() => playerMarks(playerGroups(sources)), [sources]);
  if (sources.length === 0) return null;
  const xs = sources.map(({ x }) => x);
  const ys = sources.map(({ y }) => y);
  const [left, right] = [Math.min(...xs, -1), Math.max(...xs, 1)];
  const [near, far] = [Math.min(...ys, 0), Math.max(...ys, 2)];
  const scale = Math.min((size.width - 44) / (right - left), (size.height - 30) / (far - near));
  const labels = labelsFor(sources, marks, scale);
  return (
    <svg {...size} role="img" aria-label={label} className="border-hairline border">
      <line
        x1={0}
        x2={size.width}
        y1={size.height / 2 + ((near + far) / 2) * scale}
        y2={size.height / 2 + ((near + far) / 2) * scale}
        stroke="var(--hairline)"
      />
      {sources.map(({ id, x, y }) => {
        const [cx, cy] = [
          size.width / 2 + (x - (left + right) / 2) * scale,
          size.height / 2 - (y - (near + far) / 2) * scale,
        ];
        return labels ? (
          <text
            key={id}
            x={cx}
            y={cy + 4}
            textAnchor="middle"
            fontSize={11}
            fontWeight={600}
            fill="var(--color-base-content)"
          >
            {labels.get(id)}
          </text>
        ) : (
          <circle
            key={id}
            cx={cx}
            cy={cy}
            r={3.5}
            fill="none"
            stroke="var(--color-base-content)"
            strokeWidth={1.5}
          />
        );
      })}
    </svg>
  );
}

function TemplatePage({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const [chosen, setChosen] = useState(TEMPLATES[0]?.id ?? '');
  const [withArrays, setWithArrays] = useState(() => session.arrays.every(isUntouchedPair));
  const replaced = session.arrays.some(isUntouchedPair);
  const template = TEMPLATES.find(({ id }) => id === chosen);
  const preview = useMemo(() => (template ? fromTemplate(template, counter()) : null), [template]);
  return (
    <div className="flex gap-5">
      <ul className="max-h-80 w-56 overflow-y-auto" aria-label="Templates">
        {TEMPLATES.map(({ id, name }) => (
          <li key={id}>
            <button
              aria-pressed={id === chosen}
              className={`w-full rounded-[3px] px-2 py-1 text-left ${id === chosen ? 'bg-neutral text-neutral-content' : 'hover:bg-base-300'}`}
              onClick={() => setChosen(id)}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
      {template && preview && (
        <div className="flex w-[300px] flex-col gap-2">
          <h3 className="text-[15px]">{template.name}</h3>
          <p className="text-muted">{template.about}.</p>
          <Preview
            sources={preview.sources}
            label={`${preview.sources.length} players from above`}
          />
          <p>
            {preview.sources.length === 1 ? 'One player' : `${preview.sources.length} players`}
            {', '}
            suggested: {preview.arrays.map(({ name }) => name.toLowerCase()).join(', ')}
          </p>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={withArrays}
              onChange={(event) => setWithArrays(event.currentTarget.checked)}
            />
            With the suggested microphones
            {replaced && withArrays ? ', in the place of the first pair' : ''}
          </label>
          <button
            className="btn btn-sm btn-primary mt-1 self-start"
            onClick={() => {
              if (addEnsemble(fromTemplate(template, newId), withArrays)) onClose();
            }}
          >
            Put it on the floor
          </button>
        </div>
      )}
    </div>
  );
}

const FIRST_SECTION: Partial<Section> = { name: 'Choir', kind: 'voice', count: 16, y: 4 };

function SectionPage({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const [section, setSection] = useState(() => sectionFrom({ ...FIRST_SECTION, id: newId() }));
  const change = (part: Partial<Section>) => setSection((known) => ({ ...known, ...part }));
  const players = useMemo(() => sectionSources(section, counter()), [section]);
  const room = 500 - session.sources.length;
  return (
    <div className="flex gap-5">
      <div className="w-72">
        <TextField
          label="Name"
          value={section.name}
          most={200}
          required
          onCommit={(name) => change({ name })}
        />
        <ChoiceField
          label="Instrument"
          value={section.kind}
          options={INSTRUMENTS.map(({ kind, name }) => ({ value: kind, label: name }))}
          onChange={(kind) => change({ kind })}
        />
        <SectionFields section={section} onChange={change} fieldOf="new-section" />
      </div>
      <div className="flex w-[270px] flex-col gap-2">
        <Preview sources={players} label={`${section.count} players from above`} />
        <SectionReadouts section={section} />
        <button
          className="btn btn-sm btn-primary mt-2 self-start"
          disabled={section.count === 0 || section.count > room}
          onClick={() => {
            const sources = sectionSources(section, newId);
            if (addEnsemble({ sources, sections: [section], arrays: [] }, false)) onClose();
          }}
        >
          Put it on the floor
        </button>
        {section.count > room && (
          <p role="alert" className="text-error">
            A session holds up to 500 players; there is room for {room}.
          </p>
        )}
      </div>
    </div>
  );
}

/** Ensembles from templates, sections from their figures. */
export function EnsembleDialog({ page, onClose }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [shown, setShown] = useState(page);
  const heading = useId();
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  const close = () => dialog.current?.close();
  return (
    <dialog
      ref={dialog}
      aria-labelledby={heading}
      onClose={onClose}
      className="border-hairline bg-base-200 text-base-content m-auto w-[640px] rounded-[3px] border p-5 backdrop:bg-black/30"
    >
      <div className="flex items-baseline justify-between pb-3">
        <h2 id={heading} className="text-[17px]">
          Add an ensemble
        </h2>
        <button className="btn btn-ghost btn-sm" onClick={close}>
          Close
        </button>
      </div>
      <div role="group" aria-label="How" className="flex gap-0.5 pb-4">
        {(['template', 'section'] as const).map((name) => (
          <button
            key={name}
            aria-pressed={shown === name}
            className={`btn btn-sm ${shown === name ? 'btn-neutral' : 'font-normal'}`}
            onClick={() => setShown(name)}
          >
            {name === 'template' ? 'From a template' : 'Arc or rows'}
          </button>
        ))}
      </div>
      {shown === 'template' ? <TemplatePage onClose={close} /> : <SectionPage onClose={close} />}
    </dialog>
  );
}
