import { isRouteErrorResponse, Link, useRouteError } from 'react-router';

/** What is shown when a page fails: the reason, and the way back. Stored sessions are untouched. */
export function ErrorPage() {
  const error = useRouteError();
  const reason = isRouteErrorResponse(error)
    ? `${error.status} ${error.statusText}`
    : error instanceof Error
      ? error.message
      : String(error);
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-xl">This page stopped</h1>
      <p className="py-3">{reason}</p>
      <p className="text-muted pb-4">What was saved is still stored in this browser.</p>
      <p className="flex gap-3">
        <button className="btn btn-sm" onClick={() => location.reload()}>
          Load the page again
        </button>
        <Link className="btn btn-sm" to="/" reloadDocument>
          All sessions
        </Link>
      </p>
    </main>
  );
}
