import { describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { newSource } from '../../core/session';
import { changeWords } from './change-words';
import { changeArray, changeSource } from './edits';
import { stepOf, type Recipe } from './steps';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const main = demo.arrays[0];
const [flute, second] = demo.sources;
if (!main || !flute || !second) throw new Error('the demo has an array and players');

function wordsOf(recipe: Recipe) {
  const made = stepOf(demo, recipe);
  if (!made) throw new Error('a change');
  return changeWords(demo, made.session);
}

describe('a change in words', () => {
  it.each<[string, string, Recipe]>([
    [`${flute.name} moved`, 'floor', changeSource(flute.id, { x: 3, z: 1 })],
    [`${flute.name}: level`, 'floor', changeSource(flute.id, { levelDb: 70 })],
    [
      '2 players moved',
      'floor',
      (draft) => {
        for (const source of draft.sources.slice(0, 2)) source.x += 1;
      },
    ],
    [`${flute.name} removed`, 'floor', (draft) => void draft.sources.shift()],
    [
      'New added',
      'floor',
      (draft) => void draft.sources.unshift(newSource({ id: 'n', name: 'New' })),
    ],
    ['order of the players', 'floor', (draft) => void draft.sources.reverse()],
    [`${main.name} moved`, 'floor', changeArray(main.id, { y: -2 })],
    [
      `${main.name}: spacing`,
      'array',
      (draft) => {
        const technique = draft.arrays[0]?.technique;
        if (technique?.kind === 'pair') technique.spacingM = 0.3;
      },
    ],
    [`${main.name}: aim`, 'array', changeArray(main.id, { aimDeg: 3 })],
    ['temperature', 'brief', (draft) => void (draft.venue.temperatureC = 12)],
    ['notes', 'brief', (draft) => void (draft.brief.notes = 'x')],
    ['model that leads', 'brief', (draft) => void (draft.settings.model = 'added')],
    ['title', 'brief', (draft) => void (draft.title = 'x')],
    ['headroom', 'rig', (draft) => void (draft.rig.headroomDb = 12)],
    [
      `${flute.name} moved and notes`,
      'floor',
      (draft) => {
        draft.brief.notes = 'x';
        if (draft.sources[0]) draft.sources[0].x += 1;
      },
    ],
  ])('%s, to be seen under %s', (what, station, recipe) => {
    expect(wordsOf(recipe)).toMatchObject({ what, place: { station } });
  });

  it('says what to choose there', () => {
    expect(wordsOf(changeSource(second.id, { x: 3 })).place.selection).toEqual({
      kind: 'source',
      id: second.id,
    });
  });
});
