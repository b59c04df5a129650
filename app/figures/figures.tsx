import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { useStore } from 'zustand';
import type { ArrayFigures, Finding, SourceFigures } from '../../core/analysis';
import type { PerModel, StageFigures } from '../../core/localisation';
import { enabledArrays, isKnown, type MicArray, type Plan, type Session } from '../../core/session';
import { useIdle } from './use-idle';
import { useSettled } from './use-settled';
import { choiceStore } from '../view/choice';
import { fieldOf, validityStore } from '../view/validity';
import { usePlan } from '../document/use-session';
import { useTask } from '../workers/use-task';
import type { createFigures } from './live';

/**
 * The figures of one array, as every station shows them: of the one that is worked on at the Array
 * station, of the one that rules the floor everywhere else.
 */
export interface LiveFigures {
  /** null in a session without one */
  array: MicArray | null;
  /** null while a field that all of them depend on is not valid */
  figures: ArrayFigures | null;
  bySource: ReadonlyMap<string, SourceFigures>;
  /** why figures are missing */
  missing: string | null;
  /** what the image line shows: the array, or the estimate of the whole mix */
  imageLine: ImageLineFigures;
  /** a candidate beside it; null while none is chosen */
  ghost: { name: string; bySource: ReadonlyMap<string, SourceFigures> } | null;
}

export interface ImageLineFigures {
  /** null for the whole mix */
  arrayId: string | null;
  name: string;
  bySource: ReadonlyMap<string, SourceFigures>;
  stage: PerModel<StageFigures>;
  /** only level tells the channels apart, so that the tangent law may speak */
  coincident: boolean;
}

const NO_IMAGE_LINE: ImageLineFigures = {
  arrayId: null,
  name: '',
  bySource: new Map(),
  stage: {},
  coincident: false,
};

export const FiguresContext = createContext<LiveFigures | null>(null);

/** The array of an id, where it is in use, else the first main one. */
export function activeArray(session: Session, chosenId: string | null): MicArray | null {
  const enabled = enabledArrays(session);
  return (
    enabled.find(({ id }) => id === chosenId) ??
    enabled.find(({ role }) => role === 'main') ??
    enabled[0] ??
    null
  );
}

const nothingYet = (array: MicArray | null, missing: string): LiveFigures => ({
  array,
  figures: null,
  bySource: new Map(),
  missing,
  imageLine: NO_IMAGE_LINE,
  ghost: null,
});

const reasonOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error);

function blockingField(invalid: Readonly<Record<string, string>>, array: MicArray): string | null {
  const arrayId = array.id;
  if (!isKnown(array)) {
    const [name] = array.missing;
    return `The ${name === 'spacingM' ? 'spacing' : 'included angle'} of ${array.name} is not known.`;
  }
  const key = Object.keys(invalid).find((name) => {
    const { of, id } = fieldOf(name);
    return (of === 'array' && id === arrayId) || of === 'venue';
  });
  return key ? (invalid[key] ?? null) : null;
}

/** The models: nothing that the first drawing waits for. */
let loaded: typeof createFigures | null = null;

function useModels() {
  const [create, setCreate] = useState(() => loaded);
  const [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    if (create) return;
    import('./live').then(
      (module) => {
        loaded = module.createFigures;
        setCreate(() => loaded);
      },
      (error: unknown) => setFailed(reasonOf(error)),
    );
  }, [create]);
  return { create, failed };
}

export function FiguresProvider({ children }: { children: ReactNode }) {
  const session = usePlan();
  const atArray = useLocation().pathname.endsWith('/array');
  const chosenId = useStore(choiceStore, ({ activeArrayId, ruledFromId }) =>
    atArray ? (activeArrayId ?? ruledFromId) : ruledFromId,
  );
  const lineId = useStore(choiceStore, ({ lineArrayId }) => (atArray ? null : lineArrayId));
  const invalid = useStore(validityStore, (state) => state.invalid);
  const wholeMix = useStore(choiceStore, (state) => state.imageLineOf === 'mix');
  const ghostId = useStore(choiceStore, (state) => state.ghostId);
  const { create, failed } = useModels();
  const figuresOf = useMemo(() => create?.() ?? null, [create]);
  const array = activeArray(session, chosenId);
  const lineArray = activeArray(session, lineId ?? chosenId);

  const live = useMemo<LiveFigures>(() => {
    const missing = array ? blockingField(invalid, array) : 'There is no array yet.';
    if (!array || missing !== null) return nothingYet(array, missing ?? 'There is no array yet.');
    if (failed !== null) return nothingYet(array, `The models could not be loaded: ${failed}`);
    if (!figuresOf) return nothingYet(array, 'They come in a moment.');
    try {
      return figuresOf({ session, array, lineArray, wholeMix, ghostId, invalid });
    } catch (error) {
      // A figure that cannot be computed must not take the page down with it.
      return nothingYet(array, `The figures stopped: ${reasonOf(error)}`);
    }
  }, [figuresOf, failed, session, array, lineArray, invalid, wholeMix, ghostId]);

  return (
    <FiguresContext value={live}>
      <FindingsProvider>{children}</FindingsProvider>
    </FiguresContext>
  );
}

/** What the rules find; a little behind the figures, because it waits for the hand to rest. */
export interface LiveFindings {
  findings: readonly Finding[];
  /** players and arrays that are left out while one of their fields is not valid */
  left: readonly { id: string; name: string }[];
  /** why nothing could be judged; null where it could */
  failed: string | null;
  /** the hand is still moving: what stands here is about to be judged anew */
  busy: boolean;
  /** what they were found in; null while nothing could be judged */
  judged: { session: Plan; withoutIds: readonly string[] } | null;
}

const FindingsContext = createContext<LiveFindings | null>(null);
const REST_MS = 120;
const NOTHING_FOUND: readonly Finding[] = [];
/** What every set-up raises, cables and phantom power, stands on the Safety page alone. */
const isOfThisSetUp = ({ basis, severity }: Finding): boolean =>
  basis !== 'safety' || severity !== 'note';

/** Players and arrays of which a field is not valid, and whether one of the hall is. */
function unclearIn(invalid: Readonly<Record<string, string>>) {
  const fields = Object.keys(invalid).map((name) => ({ ...fieldOf(name), name }));
  const venue = fields.find(({ of }) => of === 'venue');
  return {
    ids: fields.flatMap(({ of, id }) => (of === 'source' || of === 'array' ? [id] : [])),
    blocked: venue ? (invalid[venue.name] ?? null) : null,
  };
}

function FindingsProvider({ children }: { children: ReactNode }) {
  const session = usePlan();
  const invalid = useStore(validityStore, (state) => state.invalid);
  const now = useMemo(() => ({ session, invalid }), [session, invalid]);
  const rested = useSettled(now, REST_MS);
  const unclear = useMemo(() => unclearIn(rested.invalid), [rested]);
  const ask = useMemo(
    () => (unclear.blocked === null ? { session: rested.session, withoutIds: unclear.ids } : null),
    [rested, unclear],
  );
  const idle = useIdle();
  const found = useTask('findings', idle ? ask : null);
  const findings = useMemo(
    () => (found.value ?? NOTHING_FOUND).filter(isOfThisSetUp),
    [found.value],
  );
  const failed =
    unclear.blocked ?? (found.error === null ? null : `the rules stopped: ${found.error}`);
  const busy = !idle || found.busy || rested !== now;
  const left = useMemo(
    () => [...session.sources, ...session.arrays].filter(({ id }) => unclear.ids.includes(id)),
    [session, unclear],
  );
  const judged = busy ? null : ask;
  const value = useMemo(
    () => ({ findings, left, failed, busy, judged }),
    [findings, left, failed, busy, judged],
  );
  return <FindingsContext value={value}>{children}</FindingsContext>;
}

export function useFindings(): LiveFindings {
  const value = useContext(FindingsContext);
  if (!value) throw new TypeError('findings are only there inside a session');
  return value;
}

export function useFigures(): LiveFigures {
  const live = useContext(FiguresContext);
  if (!live) throw new TypeError('figures are only there inside a session');
  return live;
}
