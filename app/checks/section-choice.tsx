import { useState } from 'react';
import type { Source } from '../../core/session';
import { playerGroups } from '../../core/ensembles';
import { ChoiceField } from '../parts/fields';

/** More players than this are shown by section. */
const ALL_AT_ONCE = 60;
const ALL = '';

/** The players of one section, or all where they are few. */
export function useSection(sources: readonly Source[]) {
  const groups = playerGroups(sources);
  const many = sources.length > ALL_AT_ONCE;
  const [wanted, setWanted] = useState(ALL);
  const known = groups.find(({ name }) => name === wanted) ?? (many ? groups[0] : undefined);
  const members = new Set(known?.members);
  return {
    players: known ? sources.filter(({ id }) => members.has(id)) : sources,
    field: groups.length > 1 && (
      <ChoiceField
        label="Players of"
        value={known?.name ?? ALL}
        options={[
          ...(many ? [] : [{ value: ALL, label: 'all sections' }]),
          ...groups.map(({ name, members: list }) => ({
            value: name,
            label: `${name} (${list.length})`,
          })),
        ]}
        onChange={setWanted}
      />
    ),
  };
}
