import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  Copy,
  Crosshair,
  FlipHorizontal2,
  MoveHorizontal,
} from 'lucide-react';
import type { ReactNode } from 'react';
import { SectionFields } from './section-fields';
import { SectionReadouts } from './section-readouts';
import { Readout } from '../../parts/fields';
import { align, copySelected, mirror, mirroredCopy, spread, turnTo } from '../../document/arrange';
import { useFigures } from '../../figures/figures';
import { changeSection } from '../../document/edits';
import { thingsOf, type Thing } from '../../document/things';
import type { Selection } from '../../view/choice';
import { useSession } from '../../document/use-session';
import { tapeText } from '../marks/overlays';

function Action({ run, children }: { run: () => void; children: ReactNode }) {
  return (
    <button className="btn btn-sm justify-start font-normal" onClick={run}>
      {children}
    </button>
  );
}

function Between({ a, b }: { a: Thing; b: Thing }) {
  const { settings, venue } = useSession();
  return (
    <Readout
      label={`${a.name} to ${b.name}`}
      number={tapeText(a, b, settings.units, venue.temperatureC)}
    />
  );
}

/** Several things at once: align, spread, mirror, copy; and their section's figures. */
export function SeveralInspector({ selected }: { selected: readonly Selection[] }) {
  const session = useSession();
  const things = thingsOf(session, selected);
  const { array } = useFigures();
  const [a, b] = things;
  const sectionIds = new Set(
    things.map(({ kind, id }) =>
      kind === 'source' ? session.sources.find((s) => s.id === id)?.sectionId : '',
    ),
  );
  const [sectionId] = sectionIds;
  const section =
    sectionIds.size === 1 ? session.sections.find(({ id }) => id === sectionId) : undefined;
  return (
    <>
      <h2 className="pb-2 text-[17px]">{section?.name ?? `${things.length} selected`}</h2>
      {things.length === 2 && a && b && <Between a={a} b={b} />}
      <div className="grid grid-cols-2 gap-1 py-2">
        <Action run={() => align('y')}>
          <AlignCenterHorizontal size={15} /> In a row
        </Action>
        <Action run={() => align('x')}>
          <AlignCenterVertical size={15} /> In a column
        </Action>
        <Action run={() => align('z')}>Same height</Action>
        <Action run={spread}>
          <MoveHorizontal size={15} /> Even steps
        </Action>
        <Action run={mirror}>
          <FlipHorizontal2 size={15} /> Mirror
        </Action>
        <Action run={mirroredCopy}>
          <FlipHorizontal2 size={15} /> Mirrored copy
        </Action>
        {array && things.some(({ kind }) => kind === 'source') && (
          <Action run={() => turnTo(array)}>
            <Crosshair size={15} /> Turn to the array
          </Action>
        )}
        <Action run={copySelected}>
          <Copy size={15} /> Copy
        </Action>
      </div>
      {section && (
        <>
          <h3 className="pt-3 pb-1 text-[14px]">The section</h3>
          <p className="text-muted pb-1 text-[12.5px]">
            Changing a figure seats all its players anew; names and settings stay.
          </p>
          <SectionFields
            section={section}
            fieldOf={section.id}
            onChange={(change) => changeSection(section.id, change)}
          />
          <SectionReadouts section={section} />
        </>
      )}
    </>
  );
}
