import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../session';
import {
  addressOf,
  allowedByKit,
  assignKit,
  fronts,
  missingForKit,
  completedKit,
  starterKit,
  unknownFronts,
} from '.';

const mic = (id: string, patterns: (string | number)[], count: number, matched = false) => ({
  id,
  name: id,
  patterns,
  count,
  matched,
});
const array = (id: string, role: string, technique: object) => ({ id, name: id, role, technique });
const pair = (pattern: string) => ({
  kind: 'pair',
  pattern,
  spacingM: 0.2,
  includedAngleDeg: 90,
});
const single = { kind: 'single', pattern: 'cardioid' };
const session = (microphones: object[], arrays: object[]) =>
  sessionFrom({ kit: { microphones }, arrays });

describe('what a kit allows', () => {
  it('names what is missing, and never guesses for a kit that is not known', () => {
    const { kit } = session([mic('ribbon', ['figure-eight'], 1), mic('c', ['cardioid'], 1)], []);
    const lacks = Object.fromEntries(allowedByKit(kit).map(({ name, lacks: l }) => [name, l]));
    expect(lacks['crossed figure-eights']).toBe('two figure-eights');
    expect(lacks['mid-side, cardioid mid']).toBeNull();
    expect(lacks['mid-side, omni mid']).toBe('one omni');
    expect(missingForKit({ microphones: [] }, { kind: 'single', pattern: 0 })).toBeNull();
  });

  it('does not make a pair of two different microphones', () => {
    const { kit } = session([mic('a', ['omni'], 1), mic('b', ['omni'], 1)], []);
    const technique = { kind: 'pair', pattern: 'omni', spacingM: 1, includedAngleDeg: 0 } as const;
    expect(missingForKit(kit, technique)).toBe('two omnis');
  });
});

describe('assignment', () => {
  it('gives the matched pair to the pair and counts what is left', () => {
    const result = assignKit(
      session(
        [mic('spots', ['cardioid'], 3), mic('matched', ['cardioid'], 2, true)],
        [array('spot', 'spot', single), array('main', 'main', pair('cardioid'))],
      ),
    );
    const by = Object.fromEntries(
      result.capsules.map(({ arrayId, label, microphoneId }) => [arrayId + label, microphoneId]),
    );
    expect(by).toEqual({ spot: 'spots', mainL: 'matched', mainR: 'matched' });
    expect(result.left).toEqual({ spots: 2, matched: 0 });
    expect(result.missing).toBe(0);
  });

  it('moves an earlier choice so that nobody goes without', () => {
    // The switchable pair could serve both; only it has the omnis.
    const result = assignKit(
      session(
        [mic('switchable', ['cardioid', 'omni'], 2, true), mic('plain', ['cardioid'], 2)],
        [array('a', 'main', pair('cardioid')), array('b', 'outrigger', pair('omni'))],
      ),
    );
    expect(result.missing).toBe(0);
    expect(result.capsules.map(({ microphoneId }) => microphoneId)).toEqual([
      'plain',
      'plain',
      'switchable',
      'switchable',
    ]);
  });

  it('says what is short, what is left over, and which pair is not alike', () => {
    const result = assignKit(
      session(
        [mic('one', ['omni'], 1), mic('two', ['omni'], 1), mic('eight', ['figure-eight'], 1)],
        [array('main', 'main', pair('omni')), array('spot', 'spot', single)],
      ),
    );
    expect(result.unmatched).toEqual(['main']);
    expect(result.missing).toBe(1);
    expect(result.alternatives).toEqual([
      '1 × cardioid short (spot): left over are 1 × eight (figure-eight).',
    ]);
  });

  it('serves the starter kit’s own pairs', () => {
    const kit = starterKit();
    const lacking = allowedByKit(kit).filter(({ lacks }) => lacks !== null);
    expect(lacking.map(({ name }) => name)).toEqual(['coincident supercardioids']);
  });
});

describe('where a microphone’s front is', () => {
  const large = { ...mic('large', ['cardioid'], 2), kind: 'large condenser' };

  it('is asked of those kinds that are built both ways, and only while they are used', () => {
    const used = session([large], [array('m', 'main', pair('cardioid'))]);
    expect(unknownFronts(used).map(({ name }) => name)).toEqual(['large']);
    expect(fronts(used, 'm')).toEqual([null, null]);
    expect(unknownFronts(session([large], []))).toEqual([]);
    const said = session([{ ...large, address: 'side' }], [array('m', 'main', pair('cardioid'))]);
    expect(unknownFronts(said)).toEqual([]);
    expect(fronts(said, 'm')).toEqual(['side', 'side']);
  });

  it('is at the end of small condensers and dynamics unless the kit says else', () => {
    expect(addressOf({ kind: 'small condenser', address: null })).toBe('end');
    expect(addressOf({ kind: 'dynamic', address: null })).toBe('end');
    expect(addressOf({ kind: 'small condenser', address: 'side' })).toBe('side');
    expect(addressOf({ kind: 'boundary', address: null })).toBeNull();
  });

  it('is known of the whole starter kit', () => {
    expect(starterKit().microphones.map(addressOf)).not.toContain(null);
  });
});

describe('a starter kit', () => {
  it('fills what is not said, and leaves what is', () => {
    const empty = sessionFrom({}).kit;
    expect(completedKit(empty)).toEqual(starterKit());
    const { stands } = sessionFrom({
      kit: { stands: [{ id: 's', name: 'Tall one', count: 1, maxHeightM: 5 }] },
    }).kit;
    const own = completedKit({ ...empty, stands });
    expect(own.stands.map(({ name }) => name)).toEqual(['Tall one']);
    expect(own.microphones).toEqual(starterKit().microphones);
  });
});
