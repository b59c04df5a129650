import { lazy, Suspense, type ReactNode } from 'react';
import { createBrowserRouter, Navigate, redirect } from 'react-router';
import { Boundary } from './parts/boundary';
import { SessionsPage } from './sessions/sessions-page';
import { ErrorPage } from './shell/error-page';
import { ensureDemo } from './keeping/library';

const workbench = () => import('./workbench');
const SessionLayout = lazy(() => workbench().then((m) => ({ default: m.SessionLayout })));
const FloorStation = lazy(() => workbench().then((m) => ({ default: m.FloorStation })));
// Asked for while the address is still being looked at; from the list of sessions a little later.
if (location.pathname !== '/') void workbench();
else setTimeout(() => void workbench().catch(() => undefined), 1500);

const BriefStation = lazy(() =>
  import('./brief/brief-station').then((m) => ({ default: m.BriefStation })),
);
const ArrayStation = lazy(() =>
  import('./array/array-station').then((m) => ({ default: m.ArrayStation })),
);
const ChecksStation = lazy(() =>
  import('./checks/checks-station').then((m) => ({ default: m.ChecksStation })),
);
const RigStation = lazy(() => import('./rig/rig-station').then((m) => ({ default: m.RigStation })));
const FormulasPage = lazy(() => import('./shell/formulas-page'));
const GuidePage = lazy(() => import('./shell/guide-page'));

/** A station that fails, or whose code cannot be loaded, leaves the others standing. */
const station = (name: string, page: ReactNode): ReactNode => (
  <Boundary name={name}>
    <Suspense>{page}</Suspense>
  </Boundary>
);

export const router = createBrowserRouter([
  {
    errorElement: <ErrorPage />,
    children: [
      { path: '/', element: <SessionsPage /> },
      {
        path: '/demo',
        loader: async () => redirect(`/session/${await ensureDemo()}/floor`),
        element: null,
        hydrateFallbackElement: <p className="p-6">Opening the demo session …</p>,
      },
      {
        path: '/session/:id',
        element: (
          <Suspense fallback={<p className="text-muted p-6">Opening the session …</p>}>
            <SessionLayout />
          </Suspense>
        ),
        children: [
          { index: true, element: <Navigate to="floor" replace /> },
          {
            path: 'brief',
            element: station('Brief', <BriefStation />),
          },
          { path: 'floor', element: station('Floor', <FloorStation />) },
          {
            path: 'array',
            element: station('Array', <ArrayStation />),
          },
          {
            path: 'checks',
            element: station('Checks', <ChecksStation />),
          },
          {
            path: 'rig',
            element: station('Rig', <RigStation />),
          },
          { path: '*', element: <Navigate to="../floor" replace /> },
        ],
      },
      {
        path: '/formulas',
        element: (
          <Suspense fallback={<p className="p-6">Opening the formulas …</p>}>
            <FormulasPage />
          </Suspense>
        ),
      },
      {
        path: '/guide',
        element: (
          <Suspense fallback={<p className="p-6">Opening the guide …</p>}>
            <GuidePage />
          </Suspense>
        ),
      },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);
