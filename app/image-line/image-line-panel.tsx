import { ChevronDown, ChevronUp, Ear, Table2 } from 'lucide-react';
import { memo, useMemo, useRef, useState } from 'react';
import { useSettled } from '../figures/use-settled';
import { useStore } from 'zustand';
import { modelOf, speakingModel, type ChosenModel } from '../../core/localisation';
import { clamp, formatNumber } from '../../core/units';
import { useFigures, type LiveFigures } from '../figures/figures';
import { choiceStore } from '../view/choice';
import { panelStore } from '../view/panels';
import { besideOf } from '../document/beside';
import { usePlan } from '../document/use-session';
import { bandResults, type BandResult } from '../../core/analysis';
import { createStaves, ghostShifts, type Stave } from './notes';
import { FocusTable } from './focus-table';
import { ImageLineChoices } from './image-line-choices';
import { GLOSSARY } from '../parts/glossary';
import { useGrouping } from '../parts/groups';
import { ImageLineDrawing, neededHeight } from './image-line-drawing';
import { ImageLineTable } from './image-line-table';
import { ListenButton, Transport } from './transport';
import { useListening } from './use-listening';
import { setHovered } from '../audio/actions';

const SETTLE_MS = 100;

/** "traded cues (Simonsen, Williams)" */
function leadingWords(model: ChosenModel): string {
  const { name, authors } = modelOf(model);
  return `${name} (${authors})`;
}

function useLeading({ imageLine, figures }: LiveFigures) {
  const { settings } = usePlan();
  const refused = figures !== null && modelOf(settings).levelOnly && !imageLine.coincident;
  return { model: speakingModel(settings, !refused).id, refused };
}

function Summary({ live, model }: { live: LiveFigures; model: ReturnType<typeof useLeading> }) {
  const { imageLine } = live;
  const stage = imageLine.stage[model.model];
  const atSpeakers = stage
    ? Math.round((stage.atSpeakersPct / 100) * imageLine.bySource.size)
    : null;
  const figures: [keyof typeof GLOSSARY, string][] = [
    ['image width', stage ? `${formatNumber(stage.imageWidthPct, 0)} %` : '—'],
    ['largest gap', stage ? `${formatNumber(stage.largestGapPct, 0)} %` : '—'],
    ['at the loudspeakers', atSpeakers === null ? '—' : `${atSpeakers}`],
  ];
  return (
    <dl className="flex gap-4" aria-label="Stage figures">
      {figures.map(([name, value]) => (
        <div key={name} className="flex gap-1.5 max-md:not-first:hidden" title={GLOSSARY[name]}>
          <dt className="text-muted">{name}</dt>
          <dd className="min-w-9 font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What stands at the foot: the line, its figures, or what the bands say. */
type View = 'line' | 'table' | 'focus';

const PanelButtons = memo(function PanelButtons(props: {
  view: View;
  setView: (view: View) => void;
  open: boolean;
}) {
  const { view, setView, open } = props;
  const toggle = (other: View) => setView(view === other ? 'line' : other);
  return (
    <>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-pressed={view === 'focus'}
        aria-label="Focus by band"
        title="Focus by band"
        onClick={() => toggle('focus')}
      >
        <Ear size={14} />
      </button>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-pressed={view === 'table'}
        aria-label="Stereo image as a table"
        title="As a table"
        onClick={() => toggle('table')}
      >
        <Table2 size={14} />
      </button>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-expanded={open}
        aria-label="Stereo image large"
        title={open ? 'Smaller' : 'Larger'}
        onClick={() => panelStore.setState({ imageLineOpen: !open })}
      >
        {open ? <ChevronDown size={14} /> : <ChevronUp size={14} />}
      </button>
    </>
  );
});

/** Head and transport of the panel, px; what lists and words need beside them; and never more by itself. */
const COARSE = typeof matchMedia !== 'undefined' && matchMedia('(pointer: coarse)').matches;
const AROUND_PX = COARSE ? 96 : 66;
const LIST_PX = 130;
const MOST_PX = COARSE ? 236 : 196;

function neededPanel(staves: readonly Stave[], view: View): number {
  const content = view === 'line' && staves.length > 0 ? neededHeight(staves) : LIST_PX;
  return Math.min(MOST_PX, AROUND_PX + content);
}

/** The upper edge: pulled by hand or moved by arrows; a double click makes it as high as it needs. */
function HeightHandle({ now }: { now: number }) {
  const from = useRef<{ y: number; height: number } | null>(null);
  const [least, most] = [100, Math.round(innerHeight * 0.6)];
  const set = (height: number) =>
    panelStore.setState({ imageLineHeight: Math.round(clamp(height, least, most)) });
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-label="Height of the stereo image"
      aria-orientation="horizontal"
      aria-valuenow={now}
      aria-valuemin={least}
      aria-valuemax={most}
      title="Pull to make it higher or lower; a double click makes it as high as it needs"
      className="absolute inset-x-0 -top-px z-10 h-1.5 cursor-ns-resize touch-none pointer-coarse:h-3"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { y: event.clientY, height: now };
      }}
      onPointerMove={(event) => {
        if (from.current) set(from.current.height + from.current.y - event.clientY);
      }}
      onPointerUp={() => (from.current = null)}
      onPointerCancel={() => (from.current = null)}
      onDoubleClick={() => panelStore.setState({ imageLineHeight: null })}
      onKeyDown={(event) => {
        const step = { ArrowUp: 10, ArrowDown: -10 }[event.key];
        if (event.key === 'Home') panelStore.setState({ imageLineHeight: null });
        else if (step !== undefined) set(now + step);
        else return;
        event.preventDefault();
      }}
    />
  );
}

/** The table: read aloud or by search, not watched, it waits during a drag for the hand to rest. */
function TableAtRest(props: {
  staves: readonly Stave[];
  wanted: readonly BandResult[];
  watched: boolean;
}) {
  const { staves, wanted, watched } = props;
  const settled = useSettled(staves, SETTLE_MS);
  return (
    <ImageLineTable
      staves={watched ? staves : settled}
      wanted={wanted}
      busy={!watched && settled !== staves}
    />
  );
}

/** The stereo image at the foot of every station. */
export function ImageLinePanel() {
  const session = usePlan();
  const live = useFigures();
  const { settings } = session;
  const leading = useLeading(live);
  const open = useStore(panelStore, (state) => state.imageLineOpen);
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  const selected = useStore(choiceStore, (state) => state.selected);
  const [view, setView] = useState<View>('line');
  const asTable = view === 'table';
  const ofMix = useStore(choiceStore, (state) => state.imageLineOf === 'mix');
  const [stavesOf] = useState(createStaves);
  const grouping = useGrouping(session.sources);
  const staves = useMemo(
    () => stavesOf(session.sources, grouping, live.imageLine.bySource, leading.model),
    [stavesOf, session.sources, grouping, live.imageLine.bySource, leading.model],
  );
  const wanted = useMemo(
    () => bandResults(session, live.imageLine.bySource, leading.model),
    [session, live.imageLine.bySource, leading.model],
  );
  const ghosts = useMemo(() => ghostShifts(live, leading.model), [live, leading.model]);
  const ghostId = useStore(choiceStore, (state) => state.ghostId);
  const lineArray = session.arrays.find(({ id }) => id === live.imageLine.arrayId);
  const than = lineArray ?? live.array;
  const candidate = useMemo(() => besideOf(session, than, ghostId), [session, than, ghostId]);
  // Without figures there is still a plan: what is heard is the array that is worked on.
  useListening(session, ofMix ? 'mix' : (lineArray ?? live.array), candidate);
  const own = useStore(panelStore, (state) => state.imageLineHeight);
  const blind = useStore(panelStore, (state) => state.blind);
  const needs = neededPanel(staves, view);
  const litIds = useMemo(() => {
    const chosen = selected.filter(({ kind }) => kind === 'source').map(({ id }) => id);
    return new Set(hovered ? [...chosen, hovered] : chosen);
  }, [hovered, selected]);

  return (
    <section
      aria-label="Stereo image"
      tabIndex={-1}
      onPointerLeave={() => setHovered(null)}
      className={`no-print border-base-content bg-base-200 relative flex shrink-0 flex-col border-t-[1.5px] contain-strict will-change-transform ${open ? '' : 'h-9 pointer-coarse:h-12'}`}
      style={open ? { height: own ?? needs } : undefined}
    >
      {open && <HeightHandle now={own ?? needs} />}
      <div className="flex items-center gap-4 px-4 pt-1.5 text-[12.5px] whitespace-nowrap max-md:gap-2 max-md:px-2">
        <h2 className="text-[14px]">Stereo image</h2>
        <p
          className="text-muted min-w-0 flex-1 truncate max-md:sr-only"
          title={`Head: ${GLOSSARY.head} Bar: ${GLOSSARY.bar}`}
        >
          {leading.refused
            ? `The tangent law does not hold with a time difference: ${leadingWords({ ...settings, model: leading.model })} leads instead`
            : `head: ${leadingWords({ ...settings, model: leading.model })} · bar: spread of models${settings.own && leading.model !== 'own' ? ' · diamond: yours' : ''}${live.ghost ? ` · ring: ${live.ghost.name}` : ''}`}
        </p>
        {!open && session.sources.length > 0 && <ListenButton />}
        <div className={blind ? 'hidden' : 'contents max-sm:hidden'}>
          <ImageLineChoices array={live.array} shownId={live.imageLine.arrayId} />
          <Summary live={live} model={leading} />
        </div>
        <PanelButtons view={view} setView={setView} open={open} />
      </div>
      {open && session.sources.length === 0 && (
        <p className="text-muted px-4 pt-6">
          No players yet. Add one on the Floor (key A), and its place appears here.
        </p>
      )}
      {open && !blind && session.sources.length > 0 && live.missing !== null && (
        <p className="text-muted px-4 pt-6">No figures: {live.missing}</p>
      )}
      {open && blind && (
        <p className="text-muted flex-1 px-4 pt-6">Not shown while somebody listens blind.</p>
      )}
      {open && !blind && session.sources.length > 0 && live.missing === null && (
        <>
          {view === 'focus' && (
            <div className="overflow-auto px-4" tabIndex={0}>
              <FocusTable arrayId={ofMix ? null : live.imageLine.arrayId} />
            </div>
          )}
          {view === 'line' && (
            <ImageLineDrawing staves={staves} litIds={litIds} wanted={wanted} ghosts={ghosts} />
          )}
          <div className={asTable ? 'overflow-auto px-4' : 'sr-only'} tabIndex={asTable ? 0 : -1}>
            <TableAtRest staves={staves} wanted={wanted} watched={asTable} />
          </div>
        </>
      )}
      {open && session.sources.length > 0 && <Transport candidate={candidate?.name ?? null} />}
    </section>
  );
}
