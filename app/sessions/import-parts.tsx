import { useEffect, useRef } from 'react';
import type { Problem, Session } from '../../core/session';

/** Why a file was not taken in, path by path. */
export function ImportRefused({ file, problems }: { file: string; problems: Problem[] }) {
  return (
    <div role="alert" className="border-error my-4 border-l-2 pl-4">
      <p className="font-semibold">“{file}” was not imported. Nothing has been changed.</p>
      <ul className="list-disc pl-5">
        {problems.slice(0, 8).map(({ path, message }) => (
          <li key={path + message}>
            {path !== '' && <strong>{path}: </strong>}
            {message}
          </li>
        ))}
      </ul>
      {problems.length > 8 && <p>and {problems.length - 8} more</p>}
    </div>
  );
}

interface ClashProps {
  session: Session;
  onChoice: (choice: 'copy' | 'replace' | 'cancel') => void;
}

/** The session of a file is already here: keep both, replace or cancel. */
export function ImportClash({ session, onChoice }: ClashProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-labelledby="clash-title"
      onClose={() => onChoice('cancel')}
      className="bg-base-200 text-base-content border-hairline m-auto max-w-md border p-6 backdrop:bg-black/30"
    >
      <h2 id="clash-title" className="text-[16px]">
        “{session.title}” is already here
      </h2>
      <p className="py-3">A session with the same identity is stored in this browser.</p>
      <div className="flex flex-wrap gap-2">
        <button className="btn btn-sm btn-primary" onClick={() => onChoice('copy')}>
          Keep both
        </button>
        <button className="btn btn-sm" onClick={() => onChoice('replace')}>
          Replace the stored one
        </button>
        <button className="btn btn-sm" onClick={() => onChoice('cancel')}>
          Cancel
        </button>
      </div>
    </dialog>
  );
}
