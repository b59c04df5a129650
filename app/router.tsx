import { lazy, Suspense } from 'react';
import { createBrowserRouter, Navigate, redirect } from 'react-router';
import { ArrayStation } from './array/array-station';
import { BriefStation } from './brief/brief-station';
import { ChecksStation } from './checks/checks-station';
import { FloorStation } from './floor/floor-station';
import { RigStation } from './rig/rig-station';
import { SessionsPage } from './sessions/sessions-page';
import { ErrorPage } from './shell/error-page';
import { SessionLayout } from './shell/session-layout';
import { ensureDemo } from './state/library';

const FormulasPage = lazy(() => import('./shell/formulas-page'));

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
        element: <SessionLayout />,
        children: [
          { index: true, element: <Navigate to="floor" replace /> },
          { path: 'brief', element: <BriefStation /> },
          { path: 'floor', element: <FloorStation /> },
          { path: 'array', element: <ArrayStation /> },
          { path: 'checks', element: <ChecksStation /> },
          { path: 'rig', element: <RigStation /> },
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
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);
