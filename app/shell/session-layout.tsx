import { validityStore } from '../view/validity';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { useStore } from 'zustand';
import type { Problem } from '../../core/session';
import { Boundary } from '../parts/boundary';
import { closeStored, openStored } from '../keeping/autosave';
import { download } from '../keeping/files';
import { loadedAnew } from '../keeping/leaving';
import { FiguresProvider } from '../figures/figures';
import { sessionStore } from '../document/session-store';
import { chooseNothing } from '../view/choice';
import { fitPanels, panelStore } from '../view/panels';
import { wayStore } from '../view/ways';
import { focusStation } from './focus';
import { Header } from './header';
import { Notices } from './notices';
import { Rail } from './rail';
import { FollowingBanner, SaveBanner } from './save-indicator';
import { useShortcuts } from './shortcuts';

const PALETTE_AFTER_MS = 1500;
/** As high as the image line of an ordinary ensemble, px. */
const USUAL_PX = 196;
const ImageLinePanel = lazy(() =>
  import('../image-line/image-line-panel').then((m) => ({ default: m.ImageLinePanel })),
);
const CommandPalette = lazy(() => import('./command-palette'));
const SimulatedTake = lazy(() => import('./simulated-take'));

type Opening =
  | { kind: 'opening' }
  | { kind: 'open' }
  | { kind: 'missing' }
  | { kind: 'failed'; message: string }
  | { kind: 'damaged'; problems: Problem[]; raw: unknown };

function useOpening(id: string): Opening {
  const [opened, setOpened] = useState<{ id: string; result: Opening } | null>(null);
  useEffect(() => {
    let current = true;
    chooseNothing();
    validityStore.setState({ invalid: {} });
    const done = (result: Opening) => {
      if (current) setOpened({ id, result });
    };
    openStored(id).then(
      (result) => done(result.kind === 'found' ? { kind: 'open' } : result),
      (error: unknown) => done({ kind: 'failed', message: String(error) }),
    );
    return () => {
      current = false;
      void closeStored();
    };
  }, [id]);
  return opened?.id === id ? opened.result : { kind: 'opening' };
}

function Damaged({ id, problems, raw }: { id: string; problems: Problem[]; raw: unknown }) {
  return (
    <main className="mx-auto max-w-2xl p-8">
      <h1 className="text-xl">This session cannot be read</h1>
      <p className="py-3">Nothing has been changed. What is stored does not fit the format:</p>
      <ul className="list-disc pl-5">
        {problems.slice(0, 12).map(({ path, message }) => (
          <li key={path + message}>
            <strong>{path}</strong> {message}
          </li>
        ))}
      </ul>
      <p className="flex gap-3 pt-4">
        <button
          className="btn btn-sm"
          onClick={() => download(`${id}.json`, new Blob([JSON.stringify(raw, null, 2)]))}
        >
          Export it as it is
        </button>
        <Link className="btn btn-sm" to="/">
          All sessions
        </Link>
      </p>
    </main>
  );
}

function Missing() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-xl">This session is not in this browser</h1>
      <p className="text-muted py-3">
        Sessions stay on the device they were made on. Import its file (*.rotunda.json) to open it
        here.
      </p>
      <Link className="btn btn-sm" to="/">
        All sessions
      </Link>
    </main>
  );
}

/** The database does not give the session out: nothing is lost by that, and it may do so later. */
function Unreadable({ message }: { message: string }) {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-xl">The browser’s storage cannot be read</h1>
      <p className="py-3">
        Reason: {message}. What is stored has not been touched. A private window, a full disk or
        another tab with an older version of this page can be the cause.
      </p>
      <p className="flex gap-3">
        <button className="btn btn-sm" onClick={() => void loadedAnew()}>
          Try again
        </button>
        <Link className="btn btn-sm" to="/">
          All sessions
        </Link>
      </p>
    </main>
  );
}

/** Where the image line is about to stand. */
function ImageLinePlace() {
  const { imageLineOpen: open, imageLineHeight: own } = useStore(panelStore);
  return (
    <div
      className={`no-print border-base-content bg-base-200 shrink-0 border-t-[1.5px] ${open ? '' : 'h-9 pointer-coarse:h-12'}`}
      style={open ? { height: own ?? USUAL_PX } : undefined}
    />
  );
}

function Workbench() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const paletteOpen = useStore(panelStore, (state) => state.paletteOpen);
  const takeOpen = useStore(panelStore, (state) => state.takeOpen);
  const title = useStore(sessionStore, (state) => state.session?.title ?? '');
  // There the line is where one answers, and what is planned says nothing.
  const isAlone = pathname.endsWith('/drill');
  useShortcuts(navigate);
  useEffect(fitPanels, []);
  // At hand when it is asked for; a page that is hardly open yet has better things to load.
  useEffect(() => {
    const timer = setTimeout(() => {
      void import('./command-palette');
      void import('../floor/inspector/source-inspector');
      void import('../floor/inspector/array-inspector');
    }, PALETTE_AFTER_MS);
    return () => clearTimeout(timer);
  }, []);
  useEffect(() => {
    wayStore.setState({ go: (path) => void navigate(path) });
    return () => wayStore.setState({ go: null });
  }, [navigate]);
  // Devices in the hall that this tab had before it was loaded anew are waiting.
  useEffect(() => {
    if (sessionStorage.getItem('rotunda-booth') === null) return;
    void import('../stage/booth').then(({ resumeBooth }) => resumeBooth());
  }, []);
  useEffect(focusStation, [pathname]);
  useEffect(() => {
    document.title = `${title} · Rotunda`;
  }, [title, pathname]);
  return (
    <FiguresProvider>
      <div className="flex h-full flex-col print:block print:h-auto">
        <Header />
        <SaveBanner />
        <FollowingBanner />
        <div className="flex min-h-0 flex-1 max-sm:flex-col print:block">
          <Rail />
          <div className="flex min-h-0 min-w-0 flex-1 flex-col print:block">
            <div className="min-h-0 flex-1 print:block">
              <Outlet />
            </div>
            <div className="no-print relative">
              <Notices floating />
            </div>
            {!isAlone && (
              <Boundary name="The stereo image">
                <Suspense fallback={<ImageLinePlace />}>
                  <ImageLinePanel />
                </Suspense>
              </Boundary>
            )}
          </div>
        </div>
      </div>
      {paletteOpen && (
        <Boundary name="Find or do">
          <Suspense>
            <CommandPalette />
          </Suspense>
        </Boundary>
      )}
      {takeOpen && (
        <Boundary name="The simulated take">
          <Suspense>
            <SimulatedTake />
          </Suspense>
        </Boundary>
      )}
    </FiguresProvider>
  );
}

/** Opens the session that the address names, and puts the stations around it. */
export function SessionLayout() {
  const { id = '' } = useParams();
  const opening = useOpening(id);
  const openId = useStore(sessionStore, (state) => state.session?.id ?? null);
  if (opening.kind === 'missing') return <Missing />;
  if (opening.kind === 'failed') return <Unreadable {...opening} />;
  if (opening.kind === 'damaged') return <Damaged id={id} {...opening} />;
  if (opening.kind === 'opening' || openId !== id) {
    return <p className="text-muted p-6">Opening the session …</p>;
  }
  return <Workbench key={id} />;
}
