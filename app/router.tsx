import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { Navigate, Route, Routes, useNavigate } from 'react-router';
import { Boundary } from './parts/boundary';
import { WholePage } from './shell/error-page';
import { stationPath, STATIONS } from './stations';

const SessionsPage = lazy(() =>
  import('./sessions/sessions-page').then((m) => ({ default: m.SessionsPage })),
);
/** What every session needs, once it is there. */
let bench: typeof import('./workbench') | null = null;
const workbench = () => import('./workbench').then((module) => (bench = module));
const SessionLayout = lazy(() => workbench().then((m) => ({ default: m.SessionLayout })));

/** The second screen: a phone in the hall loads that and nothing else. */
const stagePage = () => import('./stage/stage-page');
const StagePage = lazy(stagePage);
const SimulatedDevice = lazy(() => import('./stage/simulated-page'));

// Asked for while the address is still being looked at; from the list of sessions a little later.
const isStage = location.pathname.startsWith('/stage');
if (isStage) void stagePage();
else if (location.pathname !== '/') void workbench();
else setTimeout(() => void workbench().catch(() => undefined), 1500);

/** The floor comes with the layout around it: it is there as soon as that is. */
function Floor() {
  return bench && <bench.FloorStation />;
}
/** A page for every station of the table. */
export const PAGES = STATIONS.map(({ path, name, load }) => ({
  path,
  name,
  Page: path === 'floor' ? Floor : lazy(() => load().then((page) => ({ default: page }))),
}));
const FormulasPage = lazy(() => import('./shell/formulas-page'));
const GuidePage = lazy(() => import('./shell/guide-page'));

/** A station that fails, or whose code cannot be loaded, leaves the others standing. */
const station = (name: string, page: ReactNode): ReactNode => (
  <Boundary name={name}>
    <Suspense>{page}</Suspense>
  </Boundary>
);

/** Opens the demo session, once it is there. */
function Demo() {
  const navigate = useNavigate();
  const [failed, setFailed] = useState<{ error: unknown } | null>(null);
  useEffect(() => {
    let current = true;
    import('./keeping/library')
      .then(({ ensureDemo }) => ensureDemo())
      .then(
        (id) => {
          if (current) void navigate(stationPath(id, 'floor'), { replace: true });
        },
        (error: unknown) => setFailed({ error }),
      );
    return () => {
      current = false;
    };
  }, [navigate]);
  if (failed) throw failed.error;
  return <p className="p-6">Opening the demo session …</p>;
}

/** What every address shows. */
export function Pages() {
  return (
    <WholePage>
      <Suspense fallback={<p className="text-muted p-6">Opening …</p>}>
        <Routes>
          <Route path="/" element={<SessionsPage />} />
          <Route path="/demo" element={<Demo />} />
          <Route path="/session/:id" element={<SessionLayout />}>
            <Route index element={<Navigate to="floor" replace />} />
            {PAGES.map(({ path, name, Page }) => (
              <Route key={path} path={path} element={station(name, <Page />)} />
            ))}
            <Route path="*" element={<Navigate to="../floor" replace />} />
          </Route>
          <Route path="/formulas" element={<FormulasPage />} />
          <Route path="/guide" element={<GuidePage />} />
          <Route path="/stage" element={<StagePage />} />
          <Route path="/stage/simulated" element={<SimulatedDevice />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Suspense>
    </WholePage>
  );
}
