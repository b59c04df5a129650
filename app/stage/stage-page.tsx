import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { Boundary } from '../parts/boundary';
import { beginDevice, deviceStore, forget, leave, startOver } from './device';
import { AskedPanel } from './asked-panel';
import { JoinForm, NoStage, Over } from './join-form';
import { SayPanel } from './say-panel';
import { SheetPanel } from './sheet-panel';

const PANELS = [
  { id: 'asked', name: 'Asked' },
  { id: 'sheet', name: 'Sheet' },
  { id: 'say', name: 'Say' },
] as const;

/** Whether what is said here is heard, in words. */
function LinkState() {
  const { up, booth, pending, arrived } = useStore(deviceStore);
  const waits =
    pending.length === 0
      ? ''
      : ` ${pending.length} of yours ${pending.length === 1 ? 'is' : 'are'} not there yet${
          pending[0]?.kind === 'photograph' ? ` (${Math.round(arrived * 100)} %)` : ''
        }.`;
  const words = !up
    ? `The link is lost and is being made again.${waits}`
    : !booth
      ? `The booth is away. It has a minute and a half to come back.${waits}`
      : waits === ''
        ? 'Linked. All you said is in the booth’s log.'
        : `Linked.${waits}`;
  return (
    <p
      role="status"
      aria-label="Link"
      className={`px-4 py-1 text-[13px] ${up && booth ? 'text-muted' : 'bg-warning text-warning-content'}`}
    >
      {words}
    </p>
  );
}

/** What the booth did not take. */
function Refused() {
  const refused = useStore(deviceStore, (state) => state.refused);
  return refused.map(({ id, why }) => (
    <p
      key={id}
      role="alert"
      className="bg-error text-error-content flex items-center gap-3 px-4 py-2"
    >
      <span className="flex-1">Not taken by the booth: {why}</span>
      <button className="btn btn-sm" onClick={() => forget(id)}>
        Close
      </button>
    </p>
  ));
}

/** The panels beside one another: a swipe or the names below turn them. */
function Panels() {
  const [shown, setShown] = useState(0);
  const row = useRef<HTMLDivElement>(null);
  const open = useStore(
    deviceStore,
    (state) => state.document?.asked.filter((one) => one.state === 'open').length ?? 0,
  );
  const turnTo = (i: number): void => {
    const { current } = row;
    current?.scrollTo({ left: i * current.clientWidth });
    setShown(i);
  };
  return (
    <>
      <div
        ref={row}
        className="stage-panels min-h-0 flex-1"
        onScroll={({ currentTarget: { scrollLeft, clientWidth } }) =>
          setShown(Math.round(scrollLeft / Math.max(1, clientWidth)))
        }
      >
        {PANELS.map(({ id, name }, i) => (
          <section
            key={id}
            aria-label={name}
            className="h-full w-full shrink-0 overflow-y-auto px-4 py-3"
            inert={i !== shown}
            tabIndex={0}
          >
            {id === 'asked' ? <AskedPanel /> : id === 'sheet' ? <SheetPanel /> : <SayPanel />}
          </section>
        ))}
      </div>
      <nav aria-label="Panels" className="border-base-content flex border-t-[1.5px]">
        {PANELS.map(({ id, name }, i) => (
          <button
            key={id}
            className={`btn btn-lg flex-1 rounded-none border-0 ${i === shown ? 'btn-neutral' : 'btn-ghost font-normal'}`}
            aria-pressed={i === shown}
            onClick={() => turnTo(i)}
          >
            {name}
            {id === 'asked' && open > 0 && ` (${open})`}
          </button>
        ))}
      </nav>
    </>
  );
}

function OnStage() {
  const { document: shown, name, phase } = useStore(deviceStore);
  if (!shown) {
    return (
      <main className="p-6">
        <h1 className="text-xl">The stage</h1>
        {phase !== 'joining' && <LinkState />}
        <p className="py-3">
          {phase === 'joining' ? 'Asking to be let in …' : 'Waiting for the booth’s sheet …'}
        </p>
        <button className="btn" onClick={leave}>
          Leave
        </button>
      </main>
    );
  }
  return (
    <main aria-label="The stage" className="flex h-full flex-col">
      <header className="border-hairline flex items-baseline gap-3 border-b px-4 py-2">
        <h1 className="min-w-0 flex-1 truncate text-[17px]">{shown.title}</h1>
        <span className="text-muted max-w-[35%] truncate text-[13px]">{name}</span>
        <button className="btn btn-sm btn-ghost font-normal" onClick={leave}>
          Leave
        </button>
      </header>
      <LinkState />
      <Refused />
      <Panels />
    </main>
  );
}

/** The second screen: what the hall is asked, the sheet, and what is said back. */
export default function StagePage() {
  const phase = useStore(deviceStore, (state) => state.phase);
  useEffect(() => {
    document.title = 'Stage · Rotunda';
    void beginDevice();
  }, []);
  return (
    <Boundary name="The stage">
      {phase === 'no stage' ? (
        <NoStage />
      ) : phase === 'code' ? (
        <JoinForm />
      ) : phase === 'over' ? (
        <Over again={startOver} />
      ) : phase === 'asking' ? (
        <p className="text-muted p-6">Opening …</p>
      ) : (
        <OnStage />
      )}
    </Boundary>
  );
}
