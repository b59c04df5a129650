import { useState } from 'react';
import { useStore } from 'zustand';
import { REFUSALS, STAGE_LIMITS } from '../../core/stage';
import { deviceStore, join } from './device';

const NAME_KEPT = 'rotunda-stage-name';

/** What such a page can and cannot do, said before anybody counts on it. */
export function Limits() {
  return (
    <div className="text-muted flex flex-col gap-2 pt-4 text-[13px]">
      <p>
        The screen may go to sleep: whatever is asked meanwhile is here when it wakes, and what you
        said goes out then.
      </p>
      {!isSecureContext && (
        <p>
          Over a plain local link the browser lets no page keep the screen on, work without the
          network, or show the camera. Photographs are taken with the device’s own camera; if the
          network goes, this page waits for it.
        </p>
      )}
      <p>
        Nobody climbs or reaches over people because a screen asks for it. The house, its rules and
        whoever is licensed for rigging come first; “Cannot” is an answer.
      </p>
    </div>
  );
}

/** Six digits and a name. */
export function JoinForm() {
  const why = useStore(deviceStore, (state) => state.why);
  const [code, setCode] = useState(() => /^#(\d{6})$/.exec(location.hash)?.[1] ?? '');
  const [name, setName] = useState(() => localStorage.getItem(NAME_KEPT) ?? '');
  const [wrong, setWrong] = useState('');
  return (
    <main className="mx-auto flex max-w-md flex-col gap-4 p-6">
      <h1 className="text-2xl">The stage</h1>
      <p>Type the six digits that the booth shows: Rig, page Stage.</p>
      <form
        className="flex flex-col gap-4"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          const digits = code.replace(/\s/g, '');
          const own = name.trim();
          if (!/^\d{6}$/.test(digits)) return setWrong('Code: allowed: six digits.');
          if (own === '')
            return setWrong('Your name: allowed: a name, so that the booth knows who answers.');
          setWrong('');
          localStorage.setItem(NAME_KEPT, own);
          // The code is not left in the address.
          history.replaceState(history.state, '', location.pathname + location.search);
          join(digits, own);
        }}
      >
        <label className="flex flex-col gap-1">
          <span>Code</span>
          <input
            className="input input-xl w-full text-center text-3xl tracking-[0.3em]"
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={9}
            value={code}
            onChange={(event) => setCode(event.currentTarget.value)}
          />
        </label>
        <label className="flex flex-col gap-1">
          <span>Your name</span>
          <input
            className="input input-lg w-full"
            maxLength={STAGE_LIMITS.name}
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </label>
        <button className="btn btn-lg btn-primary">Join</button>
      </form>
      {(wrong !== '' || why !== null) && (
        <p role="alert" className="text-error">
          {wrong !== '' ? wrong : why && REFUSALS[why]}
        </p>
      )}
      <Limits />
    </main>
  );
}

/** The server was started without a stage. */
export function NoStage() {
  return (
    <main className="mx-auto max-w-md p-6">
      <h1 className="text-2xl">The stage is not open</h1>
      <p className="py-3">
        Rotunda was started without it. On the machine that runs it:{' '}
        <code>npm start -- --stage</code>, then load this page again.
      </p>
      <button className="btn" onClick={() => location.reload()}>
        Load again
      </button>
    </main>
  );
}

/** The device was let go, or the booth is closed. */
export function Over({ again }: { again: () => void }) {
  const { why, pending } = useStore(deviceStore);
  return (
    <main className="mx-auto flex max-w-md flex-col gap-3 p-6">
      <h1 className="text-2xl">
        {why === null ? 'You have left the stage' : 'The stage is closed'}
      </h1>
      {why !== null && <p role="alert">{REFUSALS[why]}</p>}
      {pending.length > 0 && (
        <p role="status">
          {pending.length} of what you said {pending.length === 1 ? 'is' : 'are'} not known to be in
          the booth’s log: say {pending.length === 1 ? 'it' : 'them'} by voice.
        </p>
      )}
      <button className="btn btn-lg" onClick={again}>
        Join with a code
      </button>
    </main>
  );
}
