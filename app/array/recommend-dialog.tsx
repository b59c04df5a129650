import { useEffect, useRef, useState } from 'react';
import type { Recommendation, RecommendationResult } from '../../core/analysis';
import type { MicArray } from '../../core/session';
import { formatNumber, lengthText, type UnitSystem } from '../../core/units';
import { patternWords, TECHNIQUE_WORDS, techniqueFigures } from '../parts/technique-text';
import { changeArray } from '../state/edits';
import { edit, undo } from '../state/session-store';
import { notify } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { runRecommendation } from '../workers/recommend';

type State =
  | { kind: 'running'; share: number }
  | { kind: 'done'; result: RecommendationResult }
  | { kind: 'failed'; message: string };

function titleOf({ technique, name }: Recommendation, units: UnitSystem): string {
  const spoken = technique.kind === 'pair' && name !== 'figure-eights';
  const pattern = spoken ? `, ${patternWords(technique.pattern)}` : '';
  return `${TECHNIQUE_WORDS[name]}${pattern}, ${techniqueFigures(technique, units)}`;
}

function Card({ entry, onAdopt }: { entry: Recommendation; onAdopt: () => void }) {
  const { units } = useSession().settings;
  return (
    <li className="border-hairline grid grid-cols-[36px_1fr_auto] gap-x-3 border-b py-3">
      <span className="mark text-[18px]">{entry.rank}</span>
      <div>
        <p className="font-semibold">{titleOf(entry, units)}</p>
        <p>
          {lengthText(entry.distanceM, units)} from the middle of the ensemble,{' '}
          {lengthText(entry.z, units)} up
        </p>
        <p className="text-muted">For: {entry.reasonsFor.join('; ') || 'nothing in particular'}.</p>
        <p className="text-muted">
          Against: {entry.reasonsAgainst.join('; ') || 'nothing that is measured'}.
        </p>
      </div>
      <div className="text-right">
        <p className="pb-2 font-semibold">{formatNumber(entry.score, 0)} of 100</p>
        <button className="btn btn-sm" onClick={onAdopt}>
          Adopt<span className="sr-only"> number {entry.rank}</span>
        </button>
      </div>
    </li>
  );
}

function useRun(): State {
  const session = useSession();
  const [started] = useState(session);
  const [state, setState] = useState<State>({ kind: 'running', share: 0 });
  useEffect(() => {
    let open = true;
    const run = runRecommendation(started, (share) => {
      if (open) setState({ kind: 'running', share });
    });
    run.result.then(
      (result) => open && setState({ kind: 'done', result }),
      (error: unknown) => open && setState({ kind: 'failed', message: String(error) }),
    );
    return () => {
      open = false;
      run.cancel();
    };
  }, [started]);
  return state;
}

function RecommendDialog({ array, onClose }: { array: MicArray; onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const state = useRun();
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  function adopt({ technique, x, y, z, tiltDeg }: Recommendation) {
    const mix = { ...array.mix, capsules: [] };
    edit(changeArray(array.id, { technique, x, y, z, tiltDeg, mix }));
    notify('Adopted.', { label: 'Undo', run: undo });
    onClose();
  }
  return (
    <dialog
      ref={dialog}
      aria-label="Recommendation"
      onClose={onClose}
      className="border-hairline bg-base-200 text-base-content m-auto max-h-[84vh] w-[760px] border p-6 backdrop:bg-black/30"
    >
      <div className="flex items-center justify-between pb-2">
        <h2 className="text-[17px]">Arrays for this session</h2>
        <button className="btn btn-sm" onClick={() => dialog.current?.close()}>
          {state.kind === 'running' ? 'Cancel' : 'Close'}
        </button>
      </div>
      {state.kind === 'running' && (
        <p className="flex items-center gap-3 py-4">
          <progress className="progress w-64" value={state.share} max={1} aria-label="Progress" />
          measuring candidates …
        </p>
      )}
      {state.kind === 'failed' && <p role="alert">It stopped: {state.message}</p>}
      {state.kind === 'done' && (
        <>
          <p className="text-muted">
            {state.result.measured.toLocaleString('en-GB')} arrays measured against the brief:
            width, gaps, loudspeakers, room, mono, evenness. A broken image outweighs every taste.
          </p>
          {state.result.recommendations.length === 0 && (
            <p className="py-4">
              Nothing to recommend: there are no players yet, or the hall leaves no room before
              them.
            </p>
          )}
          <ol>
            {state.result.recommendations.map((entry) => (
              <Card key={entry.rank} entry={entry} onAdopt={() => adopt(entry)} />
            ))}
          </ol>
          {state.result.notBuildable.length > 0 && (
            <p className="text-muted pt-3">
              Not with this kit:{' '}
              {state.result.notBuildable
                .map(({ technique, needs }) => `${TECHNIQUE_WORDS[technique]} (needs ${needs})`)
                .join('; ')}
              .
            </p>
          )}
        </>
      )}
    </dialog>
  );
}

/** Opens the ranking of arrays for the session's brief, floor and kit. */
export function RecommendButton({ array }: { array: MicArray }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button className="btn btn-sm" onClick={() => setOpen(true)}>
        Recommend arrays
      </button>
      {open && <RecommendDialog array={array} onClose={() => setOpen(false)} />}
    </>
  );
}
