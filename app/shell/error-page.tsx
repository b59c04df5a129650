import { Component, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { sessionStore } from '../document/session-store';
import { copySessionFile } from '../keeping/files';
import { loadedAnew } from '../keeping/leaving';

/** What is shown when a page fails: the reason, and the way back. Stored sessions are untouched. */
function ErrorPage({ reason }: { reason: string }) {
  const session = useStore(sessionStore, (state) => state.session);
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-xl">This page stopped</h1>
      <p className="py-3">{reason}</p>
      <p className="text-muted pb-4">What was saved is still stored in this browser.</p>
      <p className="flex gap-3">
        <button className="btn btn-sm" onClick={() => void loadedAnew()}>
          Load the page again
        </button>
        {session && (
          <button className="btn btn-sm" onClick={() => void copySessionFile(session)}>
            Copy the session file
          </button>
        )}
        <a className="btn btn-sm" href="/">
          All sessions
        </a>
      </p>
    </main>
  );
}

/** Catches what nothing else has caught. */
export class WholePage extends Component<{ children: ReactNode }, { reason: string | null }> {
  override state: { reason: string | null } = { reason: null };

  static getDerivedStateFromError(error: unknown) {
    return { reason: error instanceof Error ? error.message : String(error) };
  }

  override render(): ReactNode {
    const { reason } = this.state;
    return reason === null ? this.props.children : <ErrorPage reason={reason} />;
  }
}
