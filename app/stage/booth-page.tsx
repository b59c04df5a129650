import { useEffect, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { REFUSALS } from '../../core/stage';
import { AskForm } from './ask-form';
import { AskedList } from './asked-list';
import {
  boothStore,
  closeBooth,
  letEdit,
  newCode,
  openBooth,
  putOut,
  type BoothDevice,
} from './booth';
import { LineCheck } from './line-check';
import { StagePhotographs } from './photographs';
import { QrPicture } from './qr-picture';

/** How much longer the code holds, in words. */
function CodeHolds() {
  const until = useStore(boothStore, (state) => state.codeUntil);
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  const minutes = Math.ceil((until - now) / 60_000);
  return (
    <p className="text-muted text-[12.5px]">
      {minutes > 0
        ? `Holds for ${minutes} min more; who has joined stays.`
        : 'It has run out: a new one comes in a moment.'}
    </p>
  );
}

function Device({ device }: { device: BoothDevice }) {
  const { id, name, here, since, waiting } = device;
  const at = new Date(since).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
  return (
    <li className="border-hairline flex items-center gap-2 border-b py-1">
      <span aria-hidden="true" className={here ? 'text-success' : 'text-muted'}>
        {here ? '●' : '○'}
      </span>
      <span className="min-w-0 flex-1">
        {name}
        <span className="text-muted block text-[12.5px]">
          {here ? `here since ${at}` : `away since ${at}: it catches up when it wakes`}
          {waiting > 0 && `, ${waiting} on the way`}
        </span>
      </span>
      <button
        className="btn btn-xs font-normal"
        aria-label={`Let ${name} go`}
        onClick={() => putOut(id)}
      >
        Let go
      </button>
    </li>
  );
}

function Pairing() {
  const { code, addresses, devices, state, mayEdit } = useStore(boothStore);
  const here = `${location.origin}/stage`;
  const [first = here] = addresses;
  return (
    <section aria-label="Pairing" className="flex flex-col gap-3">
      <p role="status" aria-label="Booth">
        {state === 'lost'
          ? 'The link to the server is lost and is being made again.'
          : state === 'opening'
            ? 'Opening …'
            : devices.length === 0
              ? 'Nobody is on the stage yet.'
              : `${devices.filter((one) => one.here).length} of ${devices.length} on the stage.`}
      </p>
      {code !== '' && (
        <>
          <div>
            <p className="text-muted text-[12.5px]">Code</p>
            <p aria-label="Code" className="num text-4xl font-semibold tracking-[0.15em]">
              {code}
            </p>
            <CodeHolds />
          </div>
          <QrPicture text={`${first}#${code}`} />
          {(addresses.length === 0 ? [here] : addresses).map((address) => (
            <a
              key={address}
              className="link break-all"
              href={address}
              target="_blank"
              rel="noreferrer"
            >
              {address}
            </a>
          ))}
          {addresses.length === 0 ? (
            <p className="text-muted text-[12.5px]">
              Only this machine reaches it. For phones start with{' '}
              <code>npm start -- --stage --host</code> and this machine’s address.
            </p>
          ) : (
            <p className="text-muted text-[12.5px]">
              Everybody in this network can load the page; without the code they get nothing. What
              is sent is not encrypted: keep it in a network of your own.
            </p>
          )}
          <p className="flex flex-wrap gap-2">
            <button className="btn btn-sm font-normal" onClick={newCode}>
              New code
            </button>
            <a
              className="btn btn-sm font-normal"
              href={`/stage/simulated#${code}`}
              target="_blank"
              rel="noreferrer"
            >
              A simulated device
            </a>
          </p>
        </>
      )}
      <ul aria-label="On the stage">
        {devices.map((device) => (
          <Device key={device.id} device={device} />
        ))}
      </ul>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={mayEdit}
          onChange={(event) => letEdit(event.currentTarget.checked)}
        />
        The stage may change the plan
      </label>
      <p>
        <button className="btn btn-sm font-normal" onClick={closeBooth}>
          Close the stage
        </button>
      </p>
    </section>
  );
}

const Told = ({ children }: { children: ReactNode }) => (
  <div className="flex max-w-xl flex-col gap-3">{children}</div>
);

/** Before there is a stage, or where there can be none. */
function Closed() {
  const { state, why } = useStore(boothStore);
  return (
    <Told>
      <p>
        A phone or tablet in the hall shows the sheet and what you ask: “Main pair, 2 cm up”. Done
        or cannot comes back, with who and when, into the log and As built.
      </p>
      {state === 'missing' && (
        <p role="alert">
          This Rotunda was started without a stage. On its machine:{' '}
          <code>npm start -- --stage</code>; it asks in which network phones may reach it.
        </p>
      )}
      {state === 'refused' && why !== null && <p role="alert">{REFUSALS[why]}</p>}
      <p>
        <button
          className="btn btn-primary"
          disabled={state === 'asking'}
          onClick={() => void openBooth()}
        >
          {state === 'asking' ? 'Asking …' : 'Open the stage'}
        </button>
      </p>
    </Told>
  );
}

/** The stage as the booth sees it: who is there, what is asked, what came of it. */
export function BoothPage() {
  const state = useStore(boothStore, (booth) => booth.state);
  const isOpen = state === 'open' || state === 'lost' || state === 'opening';
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-6">
      {isOpen && (
        <div className="min-w-56 flex-1 sm:max-w-72">
          <Pairing />
        </div>
      )}
      <div className="flex min-w-72 flex-[3] flex-col gap-6">
        {!isOpen && <Closed />}
        {isOpen && <AskForm />}
        <AskedList />
        {isOpen && <LineCheck />}
        <StagePhotographs />
      </div>
    </div>
  );
}
