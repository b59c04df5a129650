import { enabledArrays, type MicArray, type Session } from '../../core/session';

/** What stands beside the plan to be compared and heard. */
export interface Beside {
  id: string;
  name: string;
  /** kept as it was, or in use now */
  kind: 'candidate' | 'in use';
  /** of a whole set-up the one that leads */
  array: MicArray;
  /** all arrays of a whole set-up; empty where it is one array */
  setUp: readonly MicArray[];
}

/** Candidates of before had letters for names. */
const LETTER = /^[A-Z]$/;

/** How a candidate is called beside the array that is worked on: of one name it is the one as kept. */
function candidateName(name: string, beside: string): string {
  if (LETTER.test(name)) return `Candidate ${name}`;
  return name === beside ? `${name} as kept` : name;
}

/**
 * All that can stand beside an array: what was kept, then what is in use, whatever its role.
 * @param than the array that they stand beside
 */
export function allBeside(session: Session, than: MicArray | null): Beside[] {
  return [
    ...session.candidates.map(({ id, name, array, setUp }) => ({
      id,
      name: candidateName(name, than?.name ?? ''),
      kind: 'candidate' as const,
      array,
      setUp,
    })),
    ...enabledArrays(session)
      .filter(({ id }) => id !== than?.id)
      .map((array) => ({
        id: array.id,
        name: array.name,
        kind: 'in use' as const,
        array,
        setUp: [],
      })),
  ];
}

/** The one that was chosen to stand beside an array; null where it is gone. */
export const besideOf = (
  session: Session,
  than: MicArray | null,
  id: string | null,
): Beside | null => allBeside(session, than).find((one) => one.id === id) ?? null;
