import { describe, expect, it } from 'vitest';
import { lastOf, once, remembered } from './remember';

describe('what is remembered', () => {
  it('of an object is made once for each object, also where nothing came out', () => {
    const asked: string[] = [];
    const nameOf = remembered(({ name }: { name: string }) => {
      asked.push(name);
      return name === '' ? undefined : name.toUpperCase();
    });
    const [a, b, empty] = [{ name: 'a' }, { name: 'b' }, { name: '' }];
    expect([nameOf(a), nameOf(b), nameOf(a)]).toEqual(['A', 'B', 'A']);
    expect([nameOf(empty), nameOf(empty)]).toEqual([undefined, undefined]);
    expect(asked).toEqual(['a', 'b', '']);
    expect(nameOf({ name: 'a' })).toBe('A');
    expect(asked).toHaveLength(4);
  });

  it('as the last answer holds for the same question only', () => {
    let made = 0;
    const square = lastOf((n: number) => {
      made += 1;
      return n * n;
    });
    expect([square(3), square(3), square(4), square(3)]).toEqual([9, 9, 16, 9]);
    expect(made).toBe(3);
    expect([square(NaN), square(NaN)]).toEqual([NaN, NaN]);
    expect(made).toBe(4);
  });

  it('once is worked out when it is first asked for', () => {
    let made = 0;
    const figure = once(() => {
      made += 1;
      return null;
    });
    expect(made).toBe(0);
    expect([figure(), figure()]).toEqual([null, null]);
    expect(made).toBe(1);
  });
});
