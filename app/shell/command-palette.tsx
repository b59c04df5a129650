import { Command } from 'cmdk';
import { useLayoutEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { MODELS } from '../../core/localisation';
import { addMainPair, addPlayer, removeSelected } from '../document/edits';
import { exportSession } from '../keeping/files';
import { createSession, duplicateStored } from '../keeping/library';
import { autosave } from '../keeping/autosave';
import { edit } from '../document/session-store';
import { setTheme, themeStore } from '../view/theme';
import { select } from '../view/choice';
import { notifyFailure } from '../view/notices';
import { panelStore } from '../view/panels';
import { useSession } from '../document/use-session';
import { focusSelection, focusStation } from './focus';
import { stationPath, STATIONS } from './stations';
import { redoSaying, undoSaying } from './history';

interface Action {
  name: string;
  keys?: string;
  run: () => void;
}

const close = () => panelStore.setState({ paletteOpen: false });

/** What was jumped to has the focus; everything else keeps it in the station. */
function focusSelectionOrStation(group: string): void {
  if (group === 'Select' || group === 'Do') focusSelection();
  else focusStation();
}

function useActions(): { group: string; actions: Action[] }[] {
  const session = useSession();
  const navigate = useNavigate();
  const open = (path: string) => void navigate(path);
  const openNew = (made: Promise<string | null>) =>
    void made.then((id) => id && open(stationPath(id, 'floor')), notifyFailure);
  return [
    {
      group: 'Go to',
      actions: [
        ...STATIONS.map(({ mark, path, name }, index) => ({
          name: `${mark} ${name}`,
          keys: `${index + 1}`,
          run: () => open(stationPath(session.id, path)),
        })),
        { name: 'All sessions', run: () => open('/') },
      ],
    },
    {
      group: 'Do',
      actions: [
        { name: 'Add a player', keys: 'A', run: () => addPlayer(session) },
        { name: 'Add a main pair', run: addMainPair },
        { name: 'Remove what is selected', keys: 'Del', run: () => removeSelected(session) },
        { name: 'Undo', keys: 'Ctrl Z', run: undoSaying },
        { name: 'Redo', keys: 'Ctrl Shift Z', run: redoSaying },
        { name: 'Export the session file', run: () => void exportSession(session) },
        {
          name: 'Duplicate this session',
          run: () => openNew(autosave.flush().then(() => duplicateStored(session.id))),
        },
        { name: 'New session', run: () => openNew(createSession()) },
        {
          name: 'Print the position sheet',
          run: () => {
            open(stationPath(session.id, 'rig'));
            setTimeout(() => print(), 300);
          },
        },
      ],
    },
    {
      group: 'Show',
      actions: [
        ...MODELS.map(({ id, name }) => ({
          name: `Image by ${name}`,
          run: () => edit((draft) => void (draft.settings.model = id)),
        })),
        {
          name: 'Metric units',
          run: () => edit((draft) => void (draft.settings.units = 'metric')),
        },
        {
          name: 'Feet and inches',
          run: () => edit((draft) => void (draft.settings.units = 'imperial')),
        },
        {
          name: 'Light or dark theme',
          run: () => setTheme(themeStore.getState().theme === 'dark' ? 'light' : 'dark'),
        },
        {
          name: 'Inspector on or off',
          run: () =>
            panelStore.setState(({ inspectorOpen }) => ({ inspectorOpen: !inspectorOpen })),
        },
        {
          name: 'Stereo image large or small',
          run: () =>
            panelStore.setState(({ imageLineOpen }) => ({ imageLineOpen: !imageLineOpen })),
        },
      ],
    },
    {
      group: 'Select',
      actions: [
        ...session.arrays.map(({ id, name }) => ({
          name,
          run: () => select({ kind: 'array' as const, id }),
        })),
        ...session.sources.map(({ id, name }) => ({
          name,
          run: () => select({ kind: 'source' as const, id }),
        })),
      ],
    },
  ];
}

/** How well a name answers what is typed, 0 … 1: whole, from its start, from a word's, inside. */
function rank(_value: string, typed: string, keywords: string[] = []): number {
  const [name = '', wanted = ''] = [keywords[0], typed].map((text) => text?.trim().toLowerCase());
  if (name === wanted) return 1;
  if (name.startsWith(wanted)) return 0.9;
  if (` ${name}`.includes(` ${wanted}`)) return 0.8;
  if (name.includes(wanted)) return 0.6;
  const words = wanted.split(/\s+/);
  return words.every((word) => name.includes(word)) ? 0.4 : 0;
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
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label="Find or do"
      onClose={close}
      onClick={(event) => event.target === dialog.current && dialog.current.close()}
      className="border-hairline bg-base-200 text-base-content m-auto mt-[12vh] w-[480px] rounded-[3px] border p-0 backdrop:bg-black/30"
    >
      <Command label="Find or do" loop filter={rank}>
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
              {actions.map(({ name, keys, run }, index) => (
                <Command.Item
                  key={`${name}-${index}`}
                  value={`${group} ${name} ${index}`}
                  keywords={[name]}
                  onSelect={() => {
                    dialog.current?.close();
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
