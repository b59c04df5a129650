import { PAGE_WORDS } from './page-words';
import { Command } from 'cmdk';
import { useLayoutEffect, useRef, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { MODELS } from '../../core/localisation';
import { rigTables } from '../../core/rig';
import type { Session } from '../../core/session';
import { additionsTo } from '../document/additions';
import { copySelected, mirroredCopy, paste, selectAllPlayers } from '../document/arrange';
import { keepCandidate, removeSelected } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { autosave } from '../keeping/autosave';
import { exportSheet, exportTable } from '../keeping/exports';
import { exportSession } from '../keeping/files';
import { duplicateStored } from '../keeping/library';
import { choiceStore, select, type Selection } from '../view/choice';
import { chooseTool, toolStore } from '../view/floor-tools';
import { notifyFailure } from '../view/notices';
import { panelStore } from '../view/panels';
import { setTheme, themeStore } from '../view/theme';
import { focusSelection, focusStation } from './focus';
import { redoSaying, undoSaying } from './history';
import { stationPath, STATIONS, type Station } from '../stations';

interface Action {
  name: string;
  /** what else it is looked for by */
  words?: string;
  keys?: string;
  run: () => void;
}

const close = () => panelStore.setState({ paletteOpen: false });

/** What was jumped to has the focus; everything else keeps it in the station. */
function focusSelectionOrStation(group: string): void {
  if (group === 'Select' || group === 'Do' || group === 'Add') focusSelection();
  else focusStation();
}

/** Every station, and every page of each by its name. */
export function waysIn(session: Pick<Session, 'id'>, open: (path: string) => void): Action[] {
  return [
    ...STATIONS.map(({ mark, path, name }, index) => ({
      name: `${mark} ${name}`,
      keys: `${index + 1}`,
      run: () => open(stationPath(session.id, path)),
    })),
    ...STATIONS.flatMap(({ path, name: station, pages }) =>
      pages.map(({ id, name, words }: Station['pages'][number]) => ({
        name: `${name}, in ${station}`,
        words: words ?? PAGE_WORDS[`${path}/${id}`] ?? '',
        run: () => open(`${stationPath(session.id, path)}?page=${id}`),
      })),
    ),
    { name: 'All sessions', run: () => open('/') },
    { name: 'Guide: fifteen jobs, fifteen short ways', run: () => open('/guide') },
    { name: 'Formulas and their sources', run: () => open('/formulas') },
  ];
}

const failing = (work: Promise<unknown>): void => void work.catch(notifyFailure);

/** All that leaves the page. */
function exportsOf(session: Session, open: (path: string) => void): Action[] {
  return [
    { name: 'Export the session file', run: () => void exportSession(session) },
    {
      name: 'Print the position sheet',
      run: () => {
        open(`${stationPath(session.id, 'rig')}?page=positions`);
        setTimeout(() => print(), 300);
      },
    },
    { name: 'Position sheet as PDF', run: () => failing(exportSheet(session)) },
    {
      name: 'Simulated take as WAV',
      words: 'render sound audio listen hear',
      run: () => panelStore.setState({ takeOpen: true }),
    },
    ...rigTables(session).map(({ name }) => ({
      name: `Table of ${name} as CSV`,
      run: () => failing(exportTable(session, name)),
    })),
  ];
}

/** What is shown, and how. */
function views(): Action[] {
  const setting = (name: string, change: Partial<Session['settings']>, words = ''): Action => ({
    name,
    words,
    run: () => edit((draft) => void Object.assign(draft.settings, change)),
  });
  return [
    ...MODELS.map(({ id, name }) => setting(`Image by ${name}`, { model: id })),
    setting('Metric units', { units: 'metric' }, 'metres centimetres m cm'),
    setting('Feet and inches', { units: 'imperial' }, 'imperial units ft in'),
    setting('Perspective of the audience', { perspective: 'audience' }),
    setting('Perspective of the performers', { perspective: 'performer' }),
    {
      name: 'Light or dark theme',
      run: () => setTheme(themeStore.getState().theme === 'dark' ? 'light' : 'dark'),
    },
    {
      name: 'Inspector on or off',
      run: () => panelStore.setState(({ inspectorOpen }) => ({ inspectorOpen: !inspectorOpen })),
    },
    {
      name: 'Stereo image large or small',
      run: () => panelStore.setState(({ imageLineOpen }) => ({ imageLineOpen: !imageLineOpen })),
    },
    {
      name: 'Stereo image of the whole mix',
      run: () => choiceStore.setState({ imageLineOf: 'mix' }),
    },
    {
      name: 'Measure on the floor',
      keys: 'M',
      run: () => chooseTool('measure'),
    },
    {
      name: 'Walls of the hall on the floor',
      run: () => chooseTool('corners'),
    },
    {
      name: 'Snap on or off',
      keys: 'S',
      run: () => toolStore.setState(({ snap }) => ({ snap: !snap })),
    },
  ];
}

function useActions(): { group: string; actions: Action[] }[] {
  const session = useSession();
  const navigate = useNavigate();
  const open = (path: string) => void navigate(path);
  const openNew = (made: Promise<string | null>) =>
    void made.then((id) => id && open(stationPath(id, 'floor')), notifyFailure);
  const onFloor = (run: () => void) => () => {
    const floor = stationPath(session.id, 'floor');
    if (location.pathname === floor) return run();
    open(floor);
    // Leaving a station clears what was chosen there first.
    setTimeout(run);
  };
  const chosen = choiceStore.getState().selection;
  const array = session.arrays.find(({ id }) => chosen?.kind === 'array' && id === chosen.id);
  return [
    { group: 'Go to', actions: waysIn(session, open) },
    {
      group: 'Add',
      actions: additionsTo(session).flatMap(({ items }) =>
        items.map(({ label, keys, run }) => ({
          name: /^(Spot for|Split|Put|Set for) /.test(label) ? label : `Add: ${label}`,
          ...(keys === undefined ? {} : { keys }),
          run: onFloor(run),
        })),
      ),
    },
    {
      group: 'Do',
      actions: [
        { name: 'Remove what is selected', keys: 'Del', run: () => removeSelected(session) },
        { name: 'Copy what is selected', keys: 'Ctrl C', run: copySelected },
        { name: 'Paste', keys: 'Ctrl V', run: paste },
        { name: 'Mirrored copy of what is selected', run: mirroredCopy },
        { name: 'Select all players', keys: 'Ctrl A', run: selectAllPlayers },
        ...(array
          ? [
              {
                name: `Rule the floor from ${array.name}`,
                run: () => choiceStore.setState({ ruledFromId: array.id, lineArrayId: null }),
              },
              {
                name: `Keep ${array.name} as a candidate`,
                run: () => choiceStore.setState({ ghostId: keepCandidate(array) }),
              },
            ]
          : []),
        { name: 'Undo', keys: 'Ctrl Z', run: undoSaying },
        { name: 'Redo', keys: 'Ctrl Shift Z', run: redoSaying },
        {
          name: 'Duplicate this session',
          run: () => openNew(autosave.flush().then(() => duplicateStored(session.id))),
        },
        {
          name: 'New session …',
          run: () => void navigate('/', { state: { beginning: true } }),
        },
      ],
    },
    { group: 'Export', actions: exportsOf(session, open) },
    { group: 'Show', actions: views() },
    {
      group: 'Select',
      actions: [
        ...(['array', 'source', 'obstacle', 'seats', 'datum'] as const).flatMap((kind) =>
          listOf(session, kind).map(({ id, name }) => ({
            name: name || `${kind} without a name`,
            run: onFloor(() => select({ kind, id })),
          })),
        ),
      ],
    },
  ];
}

function listOf(
  { arrays, sources, venue }: Session,
  kind: Selection['kind'],
): readonly { id: string; name: string }[] {
  switch (kind) {
    case 'array':
      return arrays;
    case 'source':
      return sources;
    case 'obstacle':
      return venue.obstacles;
    case 'seats':
      return venue.seats;
    case 'datum':
      return venue.datumPoints.map(({ id, name }) => ({ id, name: `Tape point ${name}` }));
    case 'corner':
      // They are reached by the walls as a whole.
      return [];
  }
}

/** How well a name answers what is typed, 0 … 1: whole, from its start, from a word's, inside. */
function rank(_value: string, typed: string, keywords: string[] = []): number {
  const [name = '', words = '', wanted = ''] = [keywords[0], keywords[1], typed].map((text) =>
    text?.trim().toLowerCase(),
  );
  if (name === wanted) return 1;
  if (name.startsWith(wanted)) return 0.9;
  if (` ${name}`.includes(` ${wanted}`)) return 0.8;
  if (` ${words}`.includes(` ${wanted}`)) return 0.7;
  if (name.includes(wanted)) return 0.6;
  return wanted.split(/\s+/).every((word) => name.includes(word)) ? 0.4 : 0;
}

/** Enter right after a letter: the list may not be there yet, so it is read when it is. */
function onEnter(event: KeyboardEvent<HTMLDivElement>): void {
  if (event.key !== 'Enter' || event.nativeEvent.isComposing) return;
  event.preventDefault();
  takeFirst(event.currentTarget);
}

function takeFirst(list: HTMLElement): void {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      const marked = list.querySelector<HTMLElement>('[cmdk-item][data-selected=true]');
      (marked ?? list.querySelector<HTMLElement>('[cmdk-item]'))?.click();
    }),
  );
}

/** Every action by name, in a native dialog. */
export default function CommandPalette() {
  const groups = useActions();
  const dialog = useRef<HTMLDialogElement>(null);
  const field = useRef<HTMLInputElement>(null);
  // From the store, because keys pressed before the field was there are in it as well.
  const text = useStore(panelStore, (state) => state.paletteText);
  useLayoutEffect(() => {
    dialog.current?.showModal();
    field.current?.focus();
    if (dialog.current && panelStore.getState().paletteTaken) takeFirst(dialog.current);
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label="Find or do"
      // At once: the event of closing comes later, and would shut what was opened in between.
      onCancel={close}
      onClose={close}
      onClick={(event) => event.target === dialog.current && dialog.current.close()}
      className="border-hairline bg-base-200 text-base-content m-auto mt-[12vh] w-[480px] rounded-[3px] border p-0 backdrop:bg-black/30"
    >
      <Command label="Find or do" loop filter={rank} onKeyDown={onEnter}>
        <Command.Input
          ref={field}
          value={text}
          onValueChange={(paletteText) => panelStore.setState({ paletteText })}
          placeholder="Find a player, a station or an action"
          className="border-hairline w-full border-b bg-transparent px-4 py-3 text-[15px] outline-none"
        />
        <Command.List className="max-h-[50vh] overflow-auto p-2">
          <Command.Empty className="text-muted px-2 py-3">Nothing of that name.</Command.Empty>
          {groups.map(({ group, actions }) => (
            <Command.Group
              key={group}
              heading={group}
              className="[&_[cmdk-group-heading]]:text-muted [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-[12px]"
            >
              {actions.map(({ name, words, keys, run }, index) => (
                <Command.Item
                  key={`${name}-${index}`}
                  value={`${group} ${name} ${index}`}
                  keywords={[name, words ?? '']}
                  onSelect={() => {
                    dialog.current?.close();
                    close();
                    run();
                    focusSelectionOrStation(group);
                  }}
                  className="data-[selected=true]:bg-base-300 flex justify-between rounded-[3px] px-2 py-1.5"
                >
                  <span>{name}</span>
                  {keys && <kbd className="text-muted text-[11.5px]">{keys}</kbd>}
                </Command.Item>
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </dialog>
  );
}
