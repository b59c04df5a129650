import { useCallback, useEffect, useState } from 'react';
import {
  ageText,
  KEPT_KINDS,
  KEPT_WORDS,
  keptOf,
  pieceWord,
  whyNotKept,
  withPiece,
  type KeptKind,
} from '../../core/recall';
import { midReverberationTime } from '../../core/analysis';
import { standing, type Mark, type Piece, type Session } from '../../core/session';
import { formatNumber, lengthText } from '../../core/units';
import { enter } from '../document/journals';
import { newId } from '../document/new-id';
import { takeOver } from '../document/take-over';
import { useSession } from '../document/use-session';
import { readLibraryAnew } from '../keeping/library-read';
import { keepPiece, keptPieces, removePiece } from '../keeping/library-store';
import { notify, notifyFailure } from '../view/notices';

function usePieces() {
  const [pieces, setPieces] = useState<Piece[] | null>(null);
  const refresh = useCallback(
    () =>
      void keptPieces().then((all) => {
        setPieces(all.filter((piece) => pieceWord(piece) !== null));
        return readLibraryAnew();
      }, notifyFailure),
    [],
  );
  useEffect(refresh, [refresh]);
  return { pieces, refresh };
}

const usualName = (session: Session, kind: KeptKind): string => {
  if (kind === 'hall') return session.venue.name;
  if (kind === 'ensemble' || kind === 'seating')
    return `${session.sources.length} players of ${session.title}`;
  return `${kind === 'kit' ? 'Kit' : kind === 'rig' ? 'Rig' : 'Blend'} of ${session.title}`;
};

/** What of this session can be kept beside it. */
function Keep({ refresh }: { refresh: () => void }) {
  const session = useSession();
  const [kind, setKind] = useState<KeptKind>('hall');
  const [name, setName] = useState('');
  const why = whyNotKept(session, kind);
  const keep = async (): Promise<void> => {
    const called = name.trim() || usualName(session, kind);
    const piece = keptOf(session, kind, {
      id: newId(),
      at: new Date().toISOString(),
      name: called,
    });
    const problem = await keepPiece(piece);
    if (problem !== null) return notify(`Not kept: ${problem}.`);
    setName('');
    notify(`“${piece.name}” is in the library.`);
    refresh();
  };
  return (
    <form
      aria-label="Keep a piece"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep().catch(notifyFailure);
      }}
    >
      <h2 className="text-[15px]">Keep of this session</h2>
      <label className="flex flex-col">
        <span className="text-muted">What</span>
        <select
          className="select select-sm w-full"
          value={kind}
          onChange={(event) => setKind(event.currentTarget.value as KeptKind)}
        >
          {KEPT_KINDS.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </label>
      <p className="text-muted text-[12.5px]">{KEPT_WORDS[kind]}.</p>
      <label className="flex flex-col">
        <span className="text-muted">Called</span>
        <input
          className="input input-sm w-full"
          maxLength={200}
          placeholder={usualName(session, kind)}
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
        />
      </label>
      <button type="submit" className="btn btn-sm btn-primary self-start" disabled={why !== null}>
        Keep it
      </button>
      {why !== null && <p className="text-muted text-[12.5px]">It cannot be kept: {why}.</p>}
    </form>
  );
}

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

/** What is in a piece, briefly. */
function contentWords(piece: Piece, units: Session['settings']['units']): string {
  const one = piece as Partial<Pick<Session, 'venue' | 'sources' | 'arrays' | 'kit'>> & {
    marks?: Mark[];
    measured?: string;
  };
  if (one.venue) {
    const { widthM, depthM, heightM, rt60S } = one.venue;
    const size = [widthM, depthM, heightM].map((m) => (m === null ? '?' : lengthText(m, units)));
    const seconds = midReverberationTime(rt60S);
    return [
      size.join(' × '),
      seconds === null
        ? 'reverberation not known'
        : `${formatNumber(seconds, 1)} s${one.measured ? ` (${one.measured})` : ''}`,
      counted(standing(one.marks ?? []).length, 'mark'),
    ].join(', ');
  }
  if (one.sources) return counted(one.sources.length, 'player');
  if (one.arrays && one.arrays.length > 0) return one.arrays.map(({ name }) => name).join(', ');
  if (one.kit)
    return `${one.kit.microphones.length} kinds of microphones, ${one.kit.stands.length} of stands`;
  return '';
}

/** Marks that come with a hall are said anew in this session: each is an entry of its own. */
function enterMarks(marks: readonly Mark[]): void {
  for (const mark of marks) {
    const { id: _id, at: _at, strikes: _s, amends: _a, ...said } = mark;
    // Their photographs are contents of the session that they are from.
    const since = mark.since || mark.at;
    enter('marks', { ...said, since, photographs: [], version: '', take: '' });
  }
}

/** Pieces of other sessions, to be put into this one. */
export function PiecesPage() {
  const session = useSession();
  const { pieces, refresh } = usePieces();
  const now = new Date().toISOString();
  const put = (piece: Piece): void => {
    const done = withPiece(session, piece, newId);
    if (!done) return;
    const left = done.left.length > 0 ? ` ${done.left.join('; ')}.` : '';
    takeOver(`${done.said}${left}`, done.session);
    enterMarks(done.marks ?? []);
  };
  const remove = async (piece: Piece): Promise<void> => {
    await removePiece(piece.id);
    refresh();
    notify(`“${piece.name}” is out of the library.`, {
      label: 'Keep it after all',
      run: () => void keepPiece(piece).then(refresh, notifyFailure),
    });
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] gap-x-8 max-lg:grid-cols-1">
      <section aria-label="Kept pieces" className="min-w-0">
        <h2 className="pb-1 text-[15px]">Kept pieces</h2>
        {pieces?.length === 0 && (
          <p className="text-muted max-w-[64ch]">
            Nothing is kept yet. A hall with its surfaces, tape points and marks, an ensemble, a
            seating, a rig, a kit or a blend is kept here once, and put into any other session. What
            is put in is a copy: the session works without the library.
          </p>
        )}
        {pieces && pieces.length > 0 && (
          <table className="ledger-table w-full" aria-label="Kept pieces">
            <thead>
              <tr>
                {['What', 'Called', 'In it', 'From', 'Kept'].map((head) => (
                  <th key={head}>{head}</th>
                ))}
                <th>
                  <span className="sr-only">Put it in</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {pieces.map((piece) => (
                <tr key={piece.id}>
                  <td>{pieceWord(piece)}</td>
                  <th scope="row">{piece.name}</th>
                  <td className="text-muted">{contentWords(piece, session.settings.units)}</td>
                  <td className="text-muted">{piece.from.title}</td>
                  <td className="text-muted whitespace-nowrap">{ageText(piece.at, now)}</td>
                  <td className="whitespace-nowrap">
                    <button className="btn btn-sm" onClick={() => put(piece)}>
                      Put it in<span className="sr-only">: {piece.name}</span>
                    </button>
                    <button
                      className="btn btn-ghost btn-sm"
                      onClick={() => void remove(piece).catch(notifyFailure)}
                    >
                      Remove<span className="sr-only"> {piece.name}</span>
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <aside className="no-print max-lg:pt-4">
        <Keep refresh={refresh} />
      </aside>
    </div>
  );
}
