import type { Microphone } from '../session/schema';

type Usual = Pick<Microphone, 'patterns' | 'phantom' | 'address'>;

/** What a microphone of a kind is as a rule, to begin with. */
const USUAL: Readonly<Record<Microphone['kind'], Usual>> = {
  'small condenser': { patterns: ['cardioid'], phantom: 'needs', address: 'end' },
  'large condenser': { patterns: ['cardioid'], phantom: 'needs', address: 'side' },
  ribbon: { patterns: ['figure-eight'], phantom: 'must not', address: 'side' },
  dynamic: { patterns: ['cardioid'], phantom: 'tolerates', address: 'end' },
  boundary: { patterns: ['omni'], phantom: 'needs', address: null },
};

/**
 * What changes with a microphone's kind: phantom power and address always, patterns where nobody
 * has said others than the usual of the kind that it was.
 */
export function ofKind(
  { kind: before, patterns }: Pick<Microphone, 'kind' | 'patterns'>,
  kind: Microphone['kind'],
): Partial<Microphone> {
  const usual = USUAL[kind];
  const untouched =
    patterns.length === 0 || [...patterns].join() === [...USUAL[before].patterns].join();
  return {
    kind,
    phantom: usual.phantom,
    address: usual.address,
    ...(untouched ? { patterns: [...usual.patterns] } : {}),
  };
}
