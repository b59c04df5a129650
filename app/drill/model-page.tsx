import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { askedImages, type Listener, type NoModel } from '../../core/drill';
import { ownModel, type OwnModelData } from '../../core/session';
import { edit } from '../document/session-store';
import { newId } from '../document/new-id';
import { useSession } from '../document/use-session';
import {
  drillStore,
  forgetDrill,
  keepModel,
  keepRun,
  readDrill,
  type ModelPiece,
  type ModelRun,
} from '../keeping/drill-store';
import { chooseFile, download, fileName } from '../keeping/files';
import { notify, notifyFailure } from '../view/notices';
import { useTask } from '../workers/use-task';
import { SetUpCheckRun } from './model-check';
import { ModelQuestions } from './model-run';
import { modelText, OwnCurve } from './model-shown';
import { useSeeds } from './rounds';
import { SoftStart, useSoftStart } from './soft-start';

const ALL = askedImages(1).length;

type Stage =
  { kind: 'list' } | { kind: 'new' } | { kind: 'running'; run: ModelRun; checked: boolean };

/** Where somebody hears what: measured, kept, and put beside the other models. */
export function ModelPage() {
  const [stage, setStage] = useState<Stage>({ kind: 'list' });
  const { models, runs } = useStore(drillStore);
  useEffect(() => void readDrill().catch(notifyFailure), []);
  const back = (): void => setStage({ kind: 'list' });
  if (stage.kind === 'new') {
    return (
      <NewRun begin={(run) => setStage({ kind: 'running', run, checked: false })} back={back} />
    );
  }
  if (stage.kind === 'running') {
    return (
      <Running {...stage} checkedNow={() => setStage({ ...stage, checked: true })} back={back} />
    );
  }
  return (
    <div className="flex flex-col gap-6">
      <section className="max-w-[76ch]">
        <h2 className="pb-2 text-[18px]">A localisation model of your own</h2>
        <p>
          {ALL} images of level alone, of time alone and of both, a click on the line for each:
          about twelve minutes, which may be broken off and gone on with. Out of it comes where you
          hear what, beside the models of everybody: on the curve, on the image line, and leading
          where a session says so. It is never the default by itself.
        </p>
        <div className="flex flex-wrap gap-3 pt-3">
          <button className="btn btn-primary" onClick={() => setStage({ kind: 'new' })}>
            Measure one
          </button>
          <button className="btn" onClick={() => void importModel().catch(notifyFailure)}>
            Take one from a file
          </button>
        </div>
      </section>
      {runs.map((run) => (
        <UnfinishedRun
          key={run.id}
          run={run}
          isKept={models.some(({ id }) => id === `model-${run.id}`)}
          goOn={() => setStage({ kind: 'running', run, checked: false })}
        />
      ))}
      {models.map((model) => (
        <Kept key={model.id} model={model} />
      ))}
    </div>
  );
}

async function importModel(): Promise<void> {
  const file = await chooseFile('.json,application/json');
  if (!file) return;
  const problem = `${file.name} is no localisation model; allowed: a file that was exported here`;
  let raw: unknown;
  try {
    raw = JSON.parse(await file.text());
  } catch {
    throw new Error(problem);
  }
  const read = ownModel.safeParse((raw as { model?: unknown } | null)?.model);
  if (!read.success) {
    const [first] = read.error.issues;
    throw new Error(`${problem}. ${first?.path.join('.') ?? ''}: ${first?.message ?? ''}`);
  }
  await keepModel(newId(), read.data);
  notify(`${read.data.name || 'The model'} is in the library.`);
}

interface NewProps {
  begin: (run: ModelRun) => void;
  back: () => void;
}

function NewRun({ begin, back }: NewProps) {
  const [name, setName] = useState('');
  const [by, setBy] = useState('');
  const [through, setThrough] = useState<OwnModelData['through']>('loudspeakers');
  const seeds = useSeeds();
  useSoftStart(through === 'headphones');
  const start = (): void => {
    const at = new Date().toISOString();
    const called = name.trim() || `${through}, ${at.slice(0, 10)}`;
    begin({
      id: newId(),
      at,
      name: called,
      by: by.trim(),
      through,
      seed: seeds(),
      answers: [],
    });
  };
  return (
    <SoftStart
      name="Measure a model of your own"
      about={
        <p>
          Sit in the middle, as far from both loudspeakers as they are from each other. First the
          set-up is checked, then {ALL} images follow. Another room, other loudspeakers or another
          year is another model.
        </p>
      }
      begin={start}
    >
      <div className="grid max-w-md grid-cols-1 gap-2">
        <label className="flex flex-col">
          <span className="text-muted">Called</span>
          <input
            className="input input-sm"
            maxLength={200}
            placeholder="a room, a year"
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-muted">Who listens</span>
          <input
            className="input input-sm"
            maxLength={200}
            value={by}
            onChange={(event) => setBy(event.currentTarget.value)}
          />
        </label>
        <fieldset className="flex gap-5 pt-1">
          <legend className="text-muted">Through</legend>
          {(['loudspeakers', 'headphones'] as const).map((way) => (
            <label key={way} className="flex items-center gap-2">
              <input
                type="radio"
                className="radio radio-sm"
                name="through"
                checked={through === way}
                onChange={() => setThrough(way)}
              />
              {way}
            </label>
          ))}
        </fieldset>
        {through === 'headphones' && (
          <p className="text-muted text-[12.5px]">
            As from two loudspeakers, by a sphere for a head; the model is marked, and is another
            listener than the same ears before loudspeakers.
          </p>
        )}
      </div>
      <div>
        <button className="btn btn-sm btn-ghost" onClick={back}>
          Leave it
        </button>
      </div>
    </SoftStart>
  );
}

interface RunningProps {
  run: ModelRun;
  checked: boolean;
  checkedNow: () => void;
  back: () => void;
}

function Running({ run, checked, checkedNow, back }: RunningProps) {
  useSoftStart(run.through === 'headphones');
  if (checked) return <ModelQuestions run={run} end={back} />;
  return (
    <SetUpCheckRun
      done={() => {
        keepRun(run).catch(notifyFailure);
        checkedNow();
      }}
      leave={back}
    />
  );
}

const dataOf = (run: ModelRun, { answers, ...listener }: Listener): OwnModelData => ({
  ...{ name: run.name, by: run.by, at: run.at, through: run.through },
  ...listener,
  levels: [...listener.levels],
  times: [...listener.times],
  levelSpread: listener.levelSpread.map(([low, high]) => [low, high]),
  timeSpread: listener.timeSpread.map(([low, high]) => [low, high]),
  joiningSpread: [listener.joiningSpread[0], listener.joiningSpread[1]],
  answers: answers[0] + answers[1] + answers[2],
});

interface UnfinishedProps {
  run: ModelRun;
  isKept: boolean;
  goOn: () => void;
}

/** A run as far as it has come: gone on with, or made a model of. */
function UnfinishedRun({ run, isKept, goOn }: UnfinishedProps) {
  const count = run.answers.length;
  const whole = count >= ALL;
  const [fits, setFits] = useState(false);
  const ask = useMemo(
    () => ((whole && !isKept) || fits ? { answers: run.answers } : null),
    [whole, isKept, fits, run.answers],
  );
  const { value, busy, error } = useTask('ownFit', ask);
  const none: NoModel | null = value && 'none' in value ? value.none : null;
  const found = value && 'listener' in value ? value.listener : null;
  useEffect(() => {
    if (found) keepModel(run.id, dataOf(run, found)).catch(notifyFailure);
  }, [found, run]);
  if (isKept && whole) return null;
  return (
    <section aria-label={`Run ${run.name}`} className="border-hairline max-w-[76ch] border-t pt-3">
      <h3 className="text-[16px]">{run.name}</h3>
      <p className="text-muted">
        {count} of {ALL} images answered, through {run.through}
        {run.by === '' ? '' : `, by ${run.by}`}.
      </p>
      {none && (
        <p role="alert" className="border-warning my-2 border-l-2 pl-3">
          No model comes of it. {none.reason} {none.way}
        </p>
      )}
      {error !== null && <p role="alert">{error}</p>}
      <div className="flex flex-wrap gap-3 pt-2">
        {!whole && (
          <button className="btn btn-sm btn-primary" onClick={goOn}>
            Go on
          </button>
        )}
        {!whole && count > 0 && (
          <button className="btn btn-sm" disabled={busy && fits} onClick={() => setFits(true)}>
            {busy && fits ? 'It is worked out …' : 'Make a model of what is there'}
          </button>
        )}
        {whole && busy && <span role="status">It is worked out …</span>}
        <button
          className="btn btn-sm btn-ghost"
          onClick={() =>
            void forgetDrill([run.id]).then(
              () =>
                notify(`The answers of ${run.name} are thrown away.`, {
                  label: 'Keep them after all',
                  run: () => void keepRun(run).catch(notifyFailure),
                }),
              notifyFailure,
            )
          }
        >
          Throw its answers away
        </button>
      </div>
    </section>
  );
}

function Kept({ model: { id, points: model } }: { model: ModelPiece }) {
  const { settings } = useSession();
  const isHere = settings.own !== null && JSON.stringify(settings.own) === JSON.stringify(model);
  const leads = isHere && settings.model === 'own';
  const put = (lead: boolean): void => {
    edit((draft) => {
      draft.settings.own = structuredClone(model);
      if (lead) draft.settings.model = 'own';
      else if (draft.settings.model === 'own') draft.settings.model = 'consensus';
    });
  };
  const takeOut = (): void => {
    edit((draft) => {
      draft.settings.own = null;
      if (draft.settings.model === 'own') draft.settings.model = 'consensus';
    });
  };
  const name = model.name || 'without a name';
  return (
    <section aria-label={`Model ${name}`} className="border-hairline border-t pt-3">
      <h3 className="text-[16px]">
        {name}
        {model.by === '' ? '' : `, ${model.by}`}
      </h3>
      <p className="text-muted max-w-[76ch] pb-2">{modelText(model)}</p>
      <p role="status" aria-label={`Use of ${name}`} className="pb-2">
        {leads
          ? 'It leads in this session, in advice as well.'
          : isHere
            ? 'It stands beside the others in this session.'
            : 'It is not in this session.'}
      </p>
      <div className="grid grid-cols-2 gap-6 max-lg:grid-cols-1">
        <OwnCurve model={model} cue="level" />
        <OwnCurve model={model} cue="time" />
      </div>
      <div className="flex flex-wrap gap-3 pt-2">
        {(!isHere || leads) && (
          <button className="btn btn-sm" onClick={() => put(false)}>
            Show it beside the others
          </button>
        )}
        {!leads && (
          <button className="btn btn-sm" onClick={() => put(true)}>
            Let it lead here
          </button>
        )}
        {isHere && (
          <button className="btn btn-sm" onClick={takeOut}>
            Take it out of this session
          </button>
        )}
        <button
          className="btn btn-sm"
          onClick={() =>
            download(
              fileName(`localisation model ${name}`, 'json'),
              new Blob([JSON.stringify({ format: 'rotunda-model', version: 1, model }, null, 2)]),
            )
          }
        >
          Export
        </button>
        <button
          className="btn btn-sm btn-ghost"
          onClick={() =>
            void forgetDrill([id]).then(
              () =>
                notify(`${name} is out of the library.`, {
                  label: 'Keep it after all',
                  run: () => void keepModel(id.replace(/^model-/, ''), model).catch(notifyFailure),
                }),
              notifyFailure,
            )
          }
        >
          Delete it
        </button>
      </div>
    </section>
  );
}
