import { ChevronDown, Plus } from 'lucide-react';
import { Fragment, useId, useState } from 'react';
import { additionsTo, type Addition } from '../../document/additions';
import { sessionStore } from '../../document/session-store';
import { Menu } from '../../parts/menu';
import { focusSelection } from '../../shell/focus';
import { toolStore } from '../../view/floor-tools';
import { notify } from '../../view/notices';
import { layUnderlay } from './lay-underlay';

const openPicture = (pictureId: string) => document.getElementById(pictureId)?.click();

function Additions({ pictureId, close }: { pictureId: string; close: () => void }) {
  // As it is when the menu opens.
  const [session] = useState(() => sessionStore.getState().session);
  if (!session) return null;
  const item = ({ label, run, keys }: Addition) => (
    <li key={label}>
      <button
        className="flex justify-between"
        onClick={() => {
          close();
          run();
          focusSelection();
        }}
      >
        {label} {keys && <kbd className="text-muted text-[11px]">{keys}</kbd>}
      </button>
    </li>
  );
  return (
    <ul className="menu dropdown-content border-hairline bg-base-200 z-20 max-h-[70vh] w-60 flex-nowrap overflow-y-auto rounded-[3px] border p-1 text-[13px]">
      {additionsTo(session).map(({ heading, items }) => (
        <Fragment key={heading}>
          <li className="text-muted px-3 pt-2 pb-0.5 text-[12px] font-semibold">{heading}</li>
          {items.map(item)}
        </Fragment>
      ))}
      {item({ label: 'Picture of the floor plan …', run: () => openPicture(pictureId) })}
    </ul>
  );
}

/** The menu of all that can be put on the floor. */
export function AddMenu() {
  const pictureId = useId();
  return (
    <>
      <Menu
        button={
          <>
            <Plus size={15} /> Add <ChevronDown size={13} />
          </>
        }
      >
        {(close) => <Additions pictureId={pictureId} close={close} />}
      </Menu>
      <input
        id={pictureId}
        type="file"
        accept="image/png,image/jpeg,image/svg+xml"
        aria-label="Picture of the floor plan"
        className="hidden"
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = '';
          if (file) void layUnderlay(file).then((problem) => problem && notify(problem));
          toolStore.setState({ floorView: 'plan' });
        }}
      />
    </>
  );
}
