import { describe, expect, it } from 'vitest';
import { newSource } from '../../core/session';
import { demoSession } from '../../core/demo';
import { badgesOf, groupsOf } from './groups';
import {
  angleKind,
  lengthKind,
  levelKind,
  percentKind,
  plainNumberKind,
  temperatureKind,
} from './quantity-kinds';
import { arrayCaption, patternWords, techniqueFigures } from './technique-text';
import { fileName } from '../keeping/files';

const player = (name: string, group = '') => newSource({ id: name, name, group });

describe('sections', () => {
  it('stand in the order in which they first appear, a player alone is a section', () => {
    const groups = groupsOf([player('V1', 'Viols'), player('Organ'), player('V2', 'Viols')]);
    expect(groups.map(({ name, members }) => [name, members])).toEqual([
      ['Viols', ['V1', 'V2']],
      ['Organ', ['Organ']],
    ]);
  });

  it('differ by hue, and after five hues by their dashes too', () => {
    const groups = groupsOf(Array.from({ length: 12 }, (_, i) => player(`P${i}`)));
    const looks = groups.map(({ hue, dash }) => `${hue} ${dash}`);
    expect(new Set(looks).size).toBe(12);
    expect(groups[0]?.dash).toBeUndefined();
    expect(groups[5]?.hue).toBe(groups[0]?.hue);
  });

  it('have badges that are short and not mistaken for each other', () => {
    const groups = groupsOf([
      player('Flute'),
      player('Fagott'),
      player('O1', 'Oboes'),
      player('O2', 'Oboes'),
    ]);
    const badges = badgesOf(groups);
    expect([...badges.values()].map(({ short }) => short)).toEqual(['Fl', 'Fa', 'Ob 1', 'Ob 2']);
    expect(badges.get('Flute')?.number).toBe('');
  });

  it('of the same beginning still differ within three letters where they can', () => {
    const badges = badgesOf(groupsOf([player('Viola'), player('Violin'), player('Viol')]));
    for (const { short } of badges.values()) expect(short.length).toBeLessThanOrEqual(3);
  });
});

describe('quantities in fields', () => {
  it('a spacing: centimetres, or inches to a sixteenth, with the other system as a hint', () => {
    const metric = lengthKind('spacingM', 'metric', 'bar');
    expect(metric.format(0.17)).toEqual({ number: '17.0', unit: 'cm' });
    expect(metric.editText(0.17)).toBe('17.0 cm');
    expect(metric.parse('17')).toEqual({ ok: true, value: 0.17 });
    expect(metric.parse('0.17')).toEqual({ ok: true, value: 0.17 });
    expect(metric.hint(0.17)).toContain('6 11/16 in');
    expect(metric.boundsText).toBe('0 to 50 m');
    expect(lengthKind('positionM', 'imperial').boundsText).toBe('−656′ 2″ to 656′ 2″');
  });

  it('angles, levels, percent and plain numbers without trailing zeros', () => {
    expect(angleKind('includedAngleDeg').format(110)).toEqual({ number: '110', unit: '°' });
    expect(angleKind('includedAngleDeg').editText(54.5)).toBe('54.5°');
    expect(levelKind('gainDb').editText(-6)).toBe('−6 dB');
    expect(levelKind('gainDb').parse('−6 dB')).toEqual({ ok: true, value: -6 });
    expect(percentKind.parse('90 %')).toEqual({ ok: true, value: 90 });
    expect(plainNumberKind('patternA').format(0.366)).toEqual({ number: '0.366', unit: '' });
    expect(plainNumberKind('patternA').parse('0.5 dB').ok).toBe(false);
  });

  it('reads back what it shows for editing', () => {
    for (const system of ['metric', 'imperial'] as const) {
      for (const kind of [lengthKind('spacingM', system, 'bar'), lengthKind('positionM', system)]) {
        for (const value of [0.17, 1.25, 2.032]) {
          const read = kind.parse(kind.editText(value));
          expect(read.ok && Math.abs(read.value - value)).toBeLessThan(0.006);
        }
      }
      const temperature = temperatureKind(system);
      const back = temperature.parse(temperature.editText(19));
      expect(back.ok && Math.abs(back.value - 19)).toBeLessThan(0.3);
    }
  });
});

describe('techniques in words', () => {
  const [main] = demoSession('').arrays;

  it('one line says what stands there', () => {
    if (!main) throw new Error('the demo has a pair');
    expect(arrayCaption(main, 'metric')).toBe('Main pair · 17 cm · 110° · 2.70 m up');
    expect(arrayCaption(main, 'imperial')).toBe('Main pair · 6 11/16 in · 110° · 8′ 10 1/4″ up');
  });

  it('says only the numbers that a technique has', () => {
    const pair = { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 } as const;
    expect(techniqueFigures(pair, 'metric')).toBe('50 cm');
    expect(techniqueFigures({ ...pair, spacingM: 0, includedAngleDeg: 90 }, 'metric')).toBe('90°');
    const side = {
      kind: 'mid-side',
      midPattern: 0.5,
      sideGainDb: -4,
      sidePositive: 'left',
    } as const;
    expect(techniqueFigures(side, 'metric')).toBe('cardioid mid, side −4.0 dB');
    expect(techniqueFigures({ kind: 'custom', capsules: [] }, 'metric')).toBe('0 microphones');
    expect(patternWords(0.42)).toBe('A 0.42');
  });
});

describe('file names', () => {
  it('are what every system takes', () => {
    expect(fileName('Sedge Lane Nonet, serenades', 'pdf')).toBe('sedge-lane-nonet-serenades.pdf');
    expect(fileName('Ä/Ö: “Übung”?', 'csv')).toBe('ao-ubung.csv');
    expect(fileName('***', 'json')).toBe('session.json');
  });
});
