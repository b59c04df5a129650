import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import {
  builtByClaps,
  CLAP_WORDS,
  clapSentence,
  clapText,
  isOther,
  openWords,
  type ClapFigure,
  type StageFigure,
} from '../../core/claps';
import { isBound } from '../../core/recorded';
import type { Place } from '../../core/verdict';
import { formatNumber, formatSigned } from '../../core/units';
import { noteBuilt } from '../document/edits';
import { usePlan, useSession } from '../document/use-session';
import { downloadTable } from '../keeping/tables';
import { CheckField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import type { Tasks } from '../workers/tasks';
import { useTask } from '../workers/use-task';
import { Working, type PageProps } from './asked';
import { Passages, usePassages } from './passages';

type Answer = Extract<Tasks['claps']['answer'], { ok: true }>['value'];
type Ask = Tasks['claps']['ask'];

const FIGURE_HEAD = ['Array', 'Figure', 'Planned', 'By claps', 'Within', 'Told'] as const;

const toldWords = (figure: ClapFigure): string =>
  !figure.measurable
    ? 'not measurable with these claps'
    : isOther(figure)
      ? 'other than planned'
      : 'as planned';

/** Every figure with its interval, and to As built one by one. */
function Figures({ figures }: { figures: readonly ClapFigure[] }) {
  const { arrays, settings } = useSession();
  const { units } = settings;
  const nameOf = (id: string): string => arrays.find((array) => array.id === id)?.name ?? 'the air';
  return (
    <table className="ledger-table w-full max-w-4xl" aria-label="The rig by claps">
      <thead>
        <tr>
          {FIGURE_HEAD.map((head) => (
            <th key={head} className={/^(Planned|By claps|Within)$/.test(head) ? 'num' : ''}>
              {head}
            </th>
          ))}
          <th>
            <span className="sr-only">Note it</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {figures.map((figure) => {
          const { arrayId, field, planned, value, within, measurable } = figure;
          const built = builtByClaps(figure);
          const words = `${nameOf(arrayId)}, ${CLAP_WORDS[field]}`;
          return (
            <tr
              key={`${arrayId} ${field}`}
              className={measurable ? (isOther(figure) ? 'font-semibold' : '') : 'text-muted'}
            >
              <th scope="row">{nameOf(arrayId)}</th>
              <td>{CLAP_WORDS[field]}</td>
              <td className="num">{clapText(field, planned, units)}</td>
              <td className="num">{measurable ? clapText(field, value, units) : '—'}</td>
              <td className="num">
                {measurable ? `±${clapText(field, within, units).replace(/^[+−]/, '')}` : '—'}
              </td>
              <td>{toldWords(figure)}</td>
              <td>
                {built && (
                  <button
                    className="btn btn-xs no-print"
                    aria-label={`${words}: to As built`}
                    onClick={() => noteBuilt([built], `As built: ${words} by claps.`)}
                  >
                    To As built
                  </button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const STAGE_HEAD = [
  ...['Player', 'Of', 'Planned ms', 'By claps ms', 'Within ms'],
  ...['Planned dB', 'By claps dB', 'Within dB'],
] as const;

const stageCells = (of: StageFigure): string[] => [
  ...[of.name, of.of, formatSigned(of.plannedMs, 3), formatSigned(of.delayMs, 3)],
  ...[formatNumber(of.delayWithinMs, 3), formatSigned(of.plannedDb, 1)],
  ...[formatSigned(of.levelDb, 1), formatNumber(of.levelWithinDb, 1)],
];

/** What every microphone really does to every player. */
function Stage({ stage }: { stage: readonly StageFigure[] }) {
  return (
    <table className="ledger-table w-auto" aria-label="What it does to the stage">
      <thead>
        <tr>
          {STAGE_HEAD.map((head, i) => (
            <th key={head} className={i > 1 ? 'num' : ''}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {stage.map((one) => (
          <tr key={`${one.placeId} ${one.of}`}>
            {stageCells(one).map((cell, i) =>
              i === 0 ? (
                <th key={i} scope="row">
                  {cell}
                </th>
              ) : (
                <td key={i} className={i > 1 ? 'num' : ''}>
                  {cell}
                </td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Shown({ answer, title }: { answer: Answer; title: string }) {
  const session = useSession();
  const { figures, stage, refused } = answer;
  const built = figures.flatMap((figure) => builtByClaps(figure) ?? []);
  const open = openWords(session, answer);
  return (
    <article aria-label="By claps">
      <p role="status" aria-label="The rig" className="max-w-[76ch] text-[17px] font-semibold">
        {clapSentence(session, answer)}
      </p>
      {refused === '' && (
        <>
          <div className="no-print flex flex-wrap gap-2 py-2">
            <button
              className="btn btn-sm btn-primary"
              disabled={built.length === 0}
              onClick={() => noteBuilt(built, `As built: ${built.length} figures by claps.`)}
            >
              All that is told to As built
            </button>
            <button className="btn btn-sm" onClick={() => print()}>
              Print
            </button>
            <button
              className="btn btn-sm"
              onClick={() =>
                void downloadTable(`${title} by claps`, STAGE_HEAD, stage.map(stageCells))
              }
            >
              CSV of the stage
            </button>
          </div>
          <h2 className="pt-2 pb-1 text-[15px]">What it does to the stage</h2>
          <Stage stage={stage} />
          <h2 className="pt-4 pb-1 text-[15px]">How it stands</h2>
          <Figures figures={figures} />
          {open.length > 0 && (
            <ul
              aria-label="What is left open"
              className="text-muted max-w-[76ch] pt-2 text-[12.5px]"
            >
              {open.map((words) => (
                <li key={words}>{words}.</li>
              ))}
            </ul>
          )}
          <p className="text-muted max-w-[76ch] pt-2 text-[12.5px]">
            Within is half of the 90 % interval. What the pair does to the stage is surer than any
            one figure of it, as some of them do the same.
          </p>
        </>
      )}
    </article>
  );
}

function Claps(props: PageProps & { places: readonly Place[] }) {
  const { recording, stretch, go, places } = props;
  const { source, binding, title } = recording;
  const plan = usePlan();
  const { units } = plan.settings;
  const { channels, found, giveUp, passages, add, choose } = usePassages(recording, plan, places);
  const [tapeM, setTapeM] = useState(0.02);
  const [plumbed, setPlumbed] = useState(false);
  const [ask, setAsk] = useState<Ask | null>(null);
  const state = useTask('claps', ask);
  const alone = passages.flatMap(({ at, who }) => (who ? [{ ...at, place: who }] : []));
  const answer = ask && !state.busy ? state.value : null;
  if (channels.length < 2) {
    return (
      <p className="max-w-[72ch]">
        {isBound(binding)
          ? 'One channel alone tells nothing of how a pair stands: bind a second one on Channels.'
          : 'Nothing is bound to the channel list yet: say on Channels which microphone each channel is.'}
      </p>
    );
  }
  return (
    <>
      <div className="no-print flex flex-wrap items-end gap-x-6 gap-y-2 pb-2">
        <div className="w-72">
          <QuantityField
            label="Tapes are good to"
            fieldKey={fieldKey('claps', 'ask', 'tape')}
            kind={lengthKind('tapeM', units, 'bar')}
            value={tapeM}
            onCommit={(m) => m !== null && setTapeM(m)}
          />
        </div>
        <CheckField
          label="The first array was plumbed to 1 cm"
          value={plumbed}
          onChange={setPlumbed}
        />
        <button
          className="btn btn-sm btn-primary"
          disabled={alone.length < 2}
          onClick={() =>
            setAsk({
              ...{ file: source, plan, binding, claps: places, alone, tapeM },
              plumbM: plumbed ? 0.01 : null,
            })
          }
        >
          Say how it stands
        </button>
        {stretch && (
          <button className="btn btn-sm font-normal" onClick={() => add(stretch)}>
            Add the stretch as a place
          </button>
        )}
      </div>
      <Working state={state} what="The claps" cancel={() => setAsk(null)}>
        {answer && !answer.ok && (
          <p role="status" aria-label="The rig">
            Cannot be told: {answer.message}.
          </p>
        )}
        {answer?.ok && <Shown answer={answer.value} title={title} />}
      </Working>
      <section aria-label="Passages" className="no-print pt-4">
        <h2 className="pb-1 text-[15px]">Passages</h2>
        <Working state={found} what="Looking for claps" cancel={giveUp}>
          <p role="status" aria-label="Passages found" className="text-muted pb-2 text-[12.5px]">
            {passages.length === places.length
              ? `${passages.length} passages stand apart by a second of silence, in the order of the ${places.length} places.`
              : `${passages.length} ${passages.length === 1 ? 'passage stands' : 'passages stand'} apart by a second of silence, for ${places.length} places: say where each was clapped, or choose a stretch on the curve and add it.`}
          </p>
          <Passages passages={passages} places={places} choose={choose} go={go} />
        </Working>
      </section>
    </>
  );
}

/** How the rig really stands, by claps at places that were taped. */
export function ClapsPage(props: PageProps) {
  const session = useSession();
  const { claps } = session.rig;
  const places = useMemo(
    () =>
      claps.map(({ name, x, y, z }, i): Place => ({
        ...{ id: `clap ${i + 1}`, name: `${i + 1}: ${name}`, x, y, z, taped: true },
      })),
    [claps],
  );
  return (
    <section aria-label="Claps">
      {places.length < 2 ? (
        <p className="max-w-[72ch]">
          No places for claps are laid out yet: lay them out on{' '}
          <Link className="link" to={`/session/${session.id}/rig?page=built`}>
            Rig, As built
          </Link>
          , tape them, and clap three times at each while everything that stands is recorded.
        </p>
      ) : (
        <Claps {...props} places={places} />
      )}
    </section>
  );
}
