import { builtFigures, FIELD_WORDS } from '../core/rig';
import { enabledArrays, type Session } from '../core/session';
import {
  askedOf,
  figureText,
  heightFrom,
  isLengthField,
  settingWords,
  type Asked,
  type StageAsked,
  type StageDocument,
} from '../core/stage';
import { capitalised, type UnitSystem } from '../core/units';
import { planDrawing, sectionDrawing } from './sheet-drawing';
import { sheetModel } from './sheet-model';

/** Of what was answered, the newest: a phone scrolls no day of work. */
const ANSWERED_SHOWN = 30;

function askedWords(session: Session, { entry, state, heard, answers }: Asked): StageAsked {
  const { id, at, to, text, set, tap } = entry;
  const words = set ? settingWords(session, set) : { lead: text, figure: '', other: '', then: '' };
  return {
    ...{ id, at, to, state, heard, tap, ...words },
    field: set?.microphone === '' ? set.field : null,
    answers: answers.map(({ by, text: said, came, at: when }) => ({
      ...{ by, text: said, came, at: when },
    })),
  };
}

/** What is shown of the instructions: all that are open, and the newest of the others. */
function shown(asked: readonly Asked[]): Asked[] {
  const closed = asked.filter(({ state }) => state !== 'open');
  const old = new Set(closed.slice(0, -ANSWERED_SHOWN));
  return asked.filter((one) => !old.has(one));
}

/**
 * What the hall sees of a session: the sheet in the very words that are printed, in both systems of
 * units, what is noted as built, and the instructions.
 * @param mayEdit whether the stage may change the plan
 */
export function stageDocument(session: Session, mayEdit: boolean): StageDocument {
  const model = sheetModel(session, true);
  const { units } = session.settings;
  const other = units === 'metric' ? 'imperial' : 'metric';
  const figures = builtFigures(session);
  const arrays = enabledArrays(session);
  return {
    ...{ title: model.title, facts: model.facts, datum: model.datum, heard: model.heard, units },
    plan: planDrawing(session),
    section: sectionDrawing(session),
    players: model.players,
    arrays: model.parts.map(({ title, lines, detail, positions, bar }, i) => {
      const id = arrays[i]?.id ?? '';
      return {
        ...{ id, name: title, lines, detail, positions, bar },
        figures: figures
          .filter(({ arrayId, field }) => arrayId === id && field !== 'rightDb')
          .map(({ field, planned, built, outside }) => {
            // A height is measured from what it was set out from.
            const { fromM, name } =
              field === 'z' ? heightFrom(session, id) : { fromM: 0, name: '' };
            const shown = (value: number, system: UnitSystem): string =>
              figureText(field, value - fromM, system);
            return {
              field,
              name: `${capitalised(FIELD_WORDS[field])}${name === '' ? '' : ` above the ${name}`}`,
              planned: shown(planned, units),
              plannedOther: isLengthField(field) ? shown(planned, other) : '',
              built: built === null ? null : shown(built, units),
              outside,
            };
          }),
      };
    }),
    cautions: model.cautions,
    deference: model.deference,
    asked: shown(askedOf(session.log)).map((one) => askedWords(session, one)),
    mayEdit,
  };
}
