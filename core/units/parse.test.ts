import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lengthText, panText } from './format';
import { isLengthUnit, parseLength, parseNumber, parsePan, parseTemperature } from './parse';

const metres = (text: string, bareUnit: 'm' | 'cm' | 'ft' | 'in' = 'm') => {
  const read = parseLength(text, { bareUnit, smallIsMetres: bareUnit === 'cm' });
  return read.ok ? read.value : read.message;
};

describe('own units', () => {
  it('are read like any other, in the plural and mixed', () => {
    const own = { shoe: 0.31, stick: 1.2 };
    const read = (text: string) => parseLength(text, { bareUnit: 'm', own });
    const metres = (text: string) => {
      const result = read(text);
      return result.ok ? result.value : NaN;
    };
    expect(metres('3 shoes')).toBeCloseTo(0.93, 9);
    expect(metres('2 sticks 1 shoe')).toBeCloseTo(2.71, 9);
    expect(read('1 shoe 2 sticks').ok).toBe(false);
    const unknown = read('2 hats');
    expect(unknown.ok ? '' : unknown.message).toMatch(/hats/);
    expect(isLengthUnit('feet')).toBe(true);
  });
});

describe('parseLength', () => {
  it.each([
    ['17 cm', 0.17],
    ['0.17', 0.17],
    ['1,5 m', 1.5],
    ['170mm', 0.17],
    [`6' 8"`, 2.032],
    ['6′ 8″', 2.032],
    ['6 ft 8 in', 2.032],
    [`6'8`, 2.032],
    ['6 ft 8 1/2 in', 2.0447],
    [`6' 8-1/2"`, 2.0447],
    ['1/2 in', 0.0127],
    ['2½ in', 0.0635],
    ['1 m 20', 1.2],
    ['1 m 20 cm', 1.2],
    ['−3 m', -3],
    ['- 30 cm', -0.3],
    ["8''", 0.2032],
    ['two metres', 2],
    ['half a metre', 0.5],
    ['one and a half metres', 1.5],
    ['a foot', 0.3048],
    ['twelve inches', 0.3048],
  ])('%s', (text, expected) => {
    expect(metres(text)).toBeCloseTo(expected, 12);
  });

  it('takes a bare number in the unit of the field, and small ones in a cm field as metres', () => {
    expect(metres('20', 'cm')).toBeCloseTo(0.2, 12);
    expect(metres('0.17', 'cm')).toBeCloseTo(0.17, 12);
    expect(metres('8', 'in')).toBeCloseTo(0.2032, 12);
    expect(metres('8', 'ft')).toBeCloseTo(2.4384, 12);
  });

  it.each([
    '',
    '   ',
    'abc',
    '3 bananas',
    '5 cm 3 m',
    '1..2 m',
    '3 m 4 m',
    '--2',
    '1/0 in',
    'two',
    'half',
    'thirteen m',
  ])('refuses “%s” and says what to type', (text) => {
    expect(metres(text)).toMatch(/Type a length such as|is not a unit of length/);
  });

  it('reads back what it shows, within half a step of the tape', () => {
    fc.assert(
      fc.property(fc.double({ min: -190, max: 190, noNaN: true }), (value) => {
        for (const [system, bareUnit, step] of [
          ['metric', 'm', 0.01],
          ['imperial', 'ft', 0.0254 / 4],
        ] as const) {
          const back = metres(lengthText(value, system), bareUnit);
          expect(Math.abs(Number(back) - value)).toBeLessThanOrEqual(step / 2 + 1e-9);
        }
      }),
    );
  });
});

describe('parseNumber and parseTemperature', () => {
  it('takes the unit, a comma and a true minus', () => {
    expect(parseNumber('−6 dB', ['db'], '-6')).toEqual({ ok: true, value: -6 });
    expect(parseNumber('54,3°', ['°'], '54')).toEqual({ ok: true, value: 54.3 });
    expect(parseNumber('0', [], '1')).toEqual({ ok: true, value: 0 });
  });

  it('refuses another unit, nothing and words', () => {
    for (const text of ['6 m', '', 'six', '1e5', 'NaN', 'Infinity']) {
      expect(parseNumber(text, ['db'], '-6 dB').ok).toBe(false);
    }
  });

  it('converts Fahrenheit when it is said or implied', () => {
    expect(parseTemperature('66 °F', 'C')).toEqual({ ok: true, value: ((66 - 32) * 5) / 9 });
    expect(parseTemperature('212', 'F')).toEqual({ ok: true, value: 100 });
    expect(parseTemperature('19 °C', 'F')).toEqual({ ok: true, value: 19 });
    expect(parseTemperature('-5', 'C')).toEqual({ ok: true, value: -5 });
    expect(parseTemperature('warm', 'C').ok).toBe(false);
  });
});

describe('parsePan', () => {
  const pan = (text: string) => {
    const read = parsePan(text);
    return read.ok ? read.value : read.message;
  };

  it.each([
    ['30 % L', -0.3],
    ['30L', -0.3],
    ['l 30', -0.3],
    ['R40', 0.4],
    ['12,5 % right', 0.125],
    ['left', -1],
    ['100 R', 1],
    ['centre', 0],
    ['C', 0],
    ['-25', -0.25],
    ['25 %', 0.25],
    ['0', 0],
    ['140 R', 1.4],
  ])('%s', (text, value) => {
    expect(pan(text)).toBeCloseTo(value, 12);
  });

  it.each(['', 'wide', '30 up', 'L R', '30 L 20'])('“%s” is not understood', (text) => {
    expect(pan(text)).toMatch(/is not understood. Type a pan such as 30 L, 30 R or centre/);
  });

  it('is told a side or a sign, not both', () => {
    expect(pan('-30 L')).toMatch(/Either a sign or a side/);
  });

  it('reads what it shows', () => {
    for (const value of [-1, -0.62, -0.01, 0, 0.3, 0.99, 1]) {
      expect(pan(panText(value))).toBeCloseTo(value, 12);
    }
  });
});

describe('sums and questions', () => {
  const metres = { bareUnit: 'm', bareUpTo: 50 } as const;
  const value = (text: string) => {
    const read = parseLength(text, metres);
    return read.ok ? read.value : read.message;
  };

  it('adds and takes off in any units', () => {
    expect(value('1.2 m - 10 in')).toBeCloseTo(1.2 - 0.254, 9);
    expect(value('1.2 m + 0.1')).toBe(1.3);
    expect(value('3 ft+2 in')).toBeCloseTo(0.9652, 9);
    expect(value('-1 m - 20 cm')).toBeCloseTo(-1.2, 9);
    expect(value('2 m −5 cm')).toBeCloseTo(1.95, 9);
    // A hyphen between feet and inches, or before a fraction, belongs to one length.
    expect(value(`6'-8"`)).toBeCloseTo(2.032, 9);
    expect(value('8-1/2 in')).toBeCloseTo(0.2159, 9);
    expect(value('1 m + sticks')).toMatch(/not/);
  });

  it('keeps what is typed exactly', () => {
    expect(value('16 in')).toBe(0.4064);
    expect(value(`8' 10 1/2"`)).toBeCloseTo(2.7051, 9);
    expect(value('0.707')).toBe(0.707);
  });

  it('asks about a number that makes no sense without a unit', () => {
    expect(value('185')).toBe('185 m? Type 185 cm, or 185 m if it is meant.');
    expect(value('-185')).toMatch(/-185 cm/);
    expect(value('50')).toBe(50);
    expect(value('185 m')).toBe(185);
    expect(value('185cm')).toBe(1.85);
    expect(parseLength('185', { bareUnit: 'm' })).toEqual({ ok: true, value: 185 });
  });
});
