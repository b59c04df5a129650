import { describe, expect, it } from 'vitest';
import { fieldKey, fieldOf, setInvalid, validityStore } from './validity';

describe('fields that are not valid', () => {
  it.each(['p1', 'a:b', 'array:x', '"quoted"', ''])('are known by their parts, id %j', (id) => {
    const key = fieldKey('source', id, 'x');
    expect(fieldOf(key)).toEqual({ of: 'source', id, field: 'x' });
    setInvalid(key, 'too far');
    expect(validityStore.getState().invalid).toEqual({ [key]: 'too far' });
    setInvalid(key, null);
    expect(validityStore.getState().invalid).toEqual({});
  });
});
