import { describe, expect, it } from 'vitest';
import { ofKind } from '.';

describe('a microphone of another kind', () => {
  it('brings the usual pattern, phantom power and front', () => {
    expect(ofKind({ kind: 'small condenser', patterns: ['cardioid'] }, 'ribbon')).toEqual({
      kind: 'ribbon',
      phantom: 'must not',
      address: 'side',
      patterns: ['figure-eight'],
    });
    expect(ofKind({ kind: 'ribbon', patterns: [] }, 'boundary').patterns).toEqual(['omni']);
  });

  it('keeps patterns that somebody has said', () => {
    const said = ofKind({ kind: 'large condenser', patterns: ['omni', 'cardioid'] }, 'dynamic');
    expect(said.patterns).toBeUndefined();
    expect(said.phantom).toBe('tolerates');
  });
});
