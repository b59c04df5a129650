import { Component, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { useStore } from 'zustand';
import { copySessionFile } from '../keeping/files';
import { loadedAnew } from '../keeping/leaving';
import { sessionStore, undo } from '../document/session-store';

interface Props {
  /** what stands inside, as a user names it */
  name: string;
  /** tried again whenever one of these changes */
  session: unknown;
  page: string;
  children: ReactNode;
}

interface State {
  failed: string | null;
}

class Catcher extends Component<Props, State> {
  override state: State = { failed: null };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    const reason = error instanceof Error ? error.message : String(error);
    return { failed: reason };
  }

  override componentDidUpdate(before: Props): void {
    const { session, page } = this.props;
    const changed = before.session !== session || before.page !== page;
    if (this.state.failed !== null && changed) this.setState({ failed: null });
  }

  override render(): ReactNode {
    const { failed } = this.state;
    if (failed === null) return this.props.children;
    return <Stopped name={this.props.name} reason={failed} />;
  }
}

function Stopped({ name, reason }: { name: string; reason: string }) {
  const session = useStore(sessionStore, (state) => state.session);
  return (
    <div role="alert" className="bg-base-100 h-full overflow-auto p-6">
      <h2 className="text-[17px]">{name} stopped</h2>
      <p className="py-2">
        Reason: {reason}. The rest of the workbench goes on, and so does saving.
      </p>
      <p className="flex flex-wrap gap-2">
        {session && (
          <button className="btn btn-sm" onClick={() => void copySessionFile(session)}>
            Copy the session file
          </button>
        )}
        <button className="btn btn-sm" onClick={undo}>
          Undo the last change
        </button>
        <button className="btn btn-sm" onClick={() => void loadedAnew()}>
          Load the page again
        </button>
      </p>
    </div>
  );
}

/** Keeps a failure where it happens: what stands outside goes on. */
export function Boundary({ name, children }: { name: string; children: ReactNode }) {
  const session = useStore(sessionStore, (state) => state.session);
  const { key } = useLocation();
  return (
    <Catcher name={name} session={session} page={key}>
      {children}
    </Catcher>
  );
}
