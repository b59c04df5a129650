import * as z from 'zod';
import { JOURNALS, pathText } from '../../core/session';
import type { Move } from './steps';

/**
 * What comes from another place is looked at before it is done: whether it is a move at all, and whether
 * whoever sends it may make it.
 */

/** A tab of the same browser, or a device in the hall. */
export type Sender = 'tab' | 'stage';

const MOST_PATCHES = 20_000;
const patch = z.object({
  op: z.enum(['add', 'remove', 'replace']),
  path: z.array(z.union([z.string().max(200), z.number()])).max(64),
  value: z.unknown().optional(),
});
const patches = z.array(patch).max(MOST_PATCHES);
const step = z.object({ patches, inverse: patches });
const head = z.looseObject({ id: z.string().min(1).max(100) });

const moveSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('step'), step }),
  z.object({ kind: z.literal('join'), step }),
  z.object({ kind: z.literal('undo') }),
  z.object({ kind: z.literal('redo') }),
  z.object({ kind: z.literal('take back') }),
  z.object({ kind: z.literal('amend'), patches }),
  z.object({
    kind: z.literal('entry'),
    journal: z.enum(JOURNALS),
    entry: head,
    blobs: z.array(head).max(100).optional(),
  }),
]);

/** Parts of a session that no other place may change, whatever it is. */
const OWN: ReadonlySet<string> = new Set(['id', 'format', 'version', 'createdAt', ...JOURNALS]);

/** Parts of the plan that a device in the hall may change: what it is asked to set out and to measure. */
const OF_STAGE: readonly (readonly string[])[] = [
  ['rig', 'asBuilt'],
  ['rig', 'packed'],
  ['venue', 'temperatureC'],
];

/** Why a sender may not change what stands at a path; null where it may. */
function forbidden(path: readonly (string | number)[], sender: Sender): string | null {
  const [first] = path;
  if (first === undefined || OWN.has(String(first))) {
    return `${pathText(path) || 'the whole'} is not changed from elsewhere`;
  }
  const may =
    sender === 'tab' || OF_STAGE.some((part) => part.every((name, i) => path[i] === name));
  return may ? null : `${pathText(path)} is not changed from the stage`;
}

/**
 * A move that came from elsewhere.
 * @throws RangeError where it is none, or its sender may not make it
 */
export function foreignMove(raw: unknown, sender: Sender): Move {
  const parsed = moveSchema.safeParse(raw);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new RangeError(`no move: ${pathText(issue?.path ?? [])} ${issue?.message ?? ''}`);
  }
  const move = parsed.data;
  const inside =
    move.kind === 'step' || move.kind === 'join'
      ? [...move.step.patches, ...move.step.inverse]
      : move.kind === 'amend'
        ? move.patches
        : [];
  for (const { path } of inside) {
    const why = forbidden(path, sender);
    if (why !== null) throw new RangeError(why);
  }
  if (sender === 'stage' && !['step', 'entry'].includes(move.kind)) {
    throw new RangeError(`${move.kind} is not made from the stage`);
  }
  return move as Move;
}
