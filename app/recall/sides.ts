import type { Overview } from '../../core/recall';
import { standing, type Plan, type Session } from '../../core/session';
import { optionName, optionsOf, takesOf } from '../../core/soundcheck';
import { planOf } from '../document/plan';
import { planOfVersion } from '../keeping/versions';
import { startsOf } from '../soundcheck/data';

/** What can be held against each other: everything that a plan is kept of. */

export interface Side {
  id: string;
  name: string;
  group: string;
  plan: () => Promise<Plan | null>;
}

/** A name that somebody gave to a version of the plan. */
export interface NamedVersion {
  id: string;
  name: string;
  at: string;
  by: string;
  version: string;
}

/** The named versions of a session, the newest first. */
export const versionsOf = (session: Session): NamedVersion[] =>
  standing(session.log)
    .flatMap((entry): NamedVersion[] => {
      if (!('kind' in entry) || entry.kind !== 'version') return [];
      const { id, at, by, name, version } = entry as NamedVersion;
      return [{ id, at, by, name, version }];
    })
    .reverse();

/** All sides of a session, and the other sessions of this browser. */
export function sidesOf(session: Session, overview: Overview | null): Side[] {
  const version = (hash: string) => () => planOfVersion(session, hash);
  return [
    ...startsOf(session).map(({ id, name, plan }): Side => ({
      id,
      name: name.replace(/^candidate: /, ''),
      group: id.startsWith('candidate') ? 'Candidates' : 'Now',
      plan: () => Promise.resolve(plan),
    })),
    ...versionsOf(session).map(({ id, name, version: hash }): Side => ({
      id: `version ${id}`,
      name: name || 'a version without a name',
      group: 'Named versions',
      plan: version(hash),
    })),
    ...optionsOf(session).map((option): Side => ({
      id: `option ${option.key}`,
      name: optionName(option),
      group: 'Options',
      plan: version(option.entry.version),
    })),
    ...takesOf(session)
      .filter(({ take }) => take.version !== '')
      .map(({ key, take }): Side => ({
        id: `take ${key}`,
        name: `Take ${take.number}${take.name === '' ? '' : `, ${take.name}`}`,
        group: 'Takes',
        plan: version(take.version),
      })),
    ...(overview?.all ?? [])
      .filter(({ id }) => id !== session.id)
      .map(({ id, title }): Side => ({
        id: `session ${id}`,
        name: title,
        group: 'Other sessions',
        plan: async () => {
          const { loadSession } = await import('../keeping/storage');
          const loaded = await loadSession(id);
          return loaded.kind === 'found' ? planOf(loaded.session) : null;
        },
      })),
  ];
}
