import { BUILT_BOUNDS, BOUNDS, boundsText, type LogEntry, type MicArray } from '../../core/session';
import { builtFigures, FIELD_WORDS } from '../../core/rig';
import {
  askedOf,
  builtByAnswer,
  figureText,
  heightFrom,
  STAGE_LIMITS,
  type StageSays,
} from '../../core/stage';
import { noteBuilt } from '../document/edits';
import { append, edit, gestureHeld, sessionStore } from '../document/session-store';
import { takeInBlob } from '../keeping/blobs';
import { choiceStore } from '../view/choice';
import { notify } from '../view/notices';

/** What the hall says becomes entries of the log and, where it is a figure, As built. */

type Said = Exclude<StageSays, { kind: 'begin' }>;
type Of<K extends Said['kind']> = Extract<Said, { kind: K }>;
type Entry = Parameters<typeof append>[0]['entry'];

const THERE = 'That array is no longer there.';
const NOT_KEPT = 'The booth could not keep it.';

/** Whether the log has it already: said again after a lost link, it is no second one. */
const isKnown = (id: string): boolean =>
  sessionStore.getState().session?.log.some((entry) => entry.id === id) === true;

/** @returns why it is not in the log; null where it is */
function enterAs(
  id: string,
  by: string,
  entry: Partial<LogEntry> & { kind: string },
  blobs?: Parameters<typeof append>[0]['blobs'],
): string | null {
  const whole: unknown = {
    ...{ id, at: new Date().toISOString(), strikes: '', amends: '', by },
    ...entry,
  };
  append({ journal: 'log', entry: whole as Entry & LogEntry, ...(blobs && { blobs }) });
  return isKnown(id) ? null : NOT_KEPT;
}

/** Done once no hand holds anything: what is being dragged is not let go for it. */
function whenFree(work: () => void): void {
  if (!gestureHeld()) return work();
  const stop = choiceStore.subscribe(({ dragging }) => {
    if (dragging) return;
    stop();
    // After the drag itself is kept.
    setTimeout(() => whenFree(work));
  });
}

const arrayOf = (id: string): MicArray | null =>
  sessionStore.getState().session?.arrays.find((array) => array.id === id) ?? null;

/** A figure as somebody in the hall reads it, as the plan has it: heights from the floor. */
function fromFloor(arrayId: string, field: Of<'built'>['field'], value: number): number {
  const { session } = sessionStore.getState();
  const fromM = session && field === 'z' ? heightFrom(session, arrayId).fromM : 0;
  return Math.round((value + fromM) * 1e6) / 1e6;
}

/** Why a figure may not be; null where it may. */
function beyond(field: Of<'built'>['field'], value: number): string | null {
  const bounds = BOUNDS[BUILT_BOUNDS[field]];
  return value >= bounds.min && value <= bounds.max
    ? null
    : `${FIELD_WORDS[field]}: allowed: ${boundsText(bounds)}`;
}

function figureWords(array: MicArray, field: Of<'built'>['field'], value: number): string {
  const { session } = sessionStore.getState();
  if (!session) return '';
  const { fromM, name } = field === 'z' ? heightFrom(session, array.id) : { fromM: 0, name: '' };
  const above = name === '' ? '' : ` above the ${name}`;
  return `${array.name}, ${FIELD_WORDS[field]} ${figureText(field, value - fromM, session.settings.units)}${above}`;
}

function answered(said: Of<'answer'>, by: string): string | null {
  const { session } = sessionStore.getState();
  const asked = session && askedOf(session.log).find(({ entry }) => entry.id === said.to);
  if (!asked) return 'That was taken back in the booth.';
  const { set } = asked.entry;
  const value = said.value === null || !set ? null : fromFloor(set.arrayId, set.field, said.value);
  const wrong = set && value !== null ? beyond(set.field, value) : null;
  if (wrong !== null) return wrong;
  const { to, came, text } = said;
  const answer = { kind: 'answer' as const, to, came, text, value };
  const why = enterAs(said.id, by, answer);
  if (why !== null) return why;
  const built = builtByAnswer(session, asked.entry, answer);
  const array = built && arrayOf(built.arrayId);
  if (built && array) {
    const words = figureWords(array, built.field, built.value);
    whenFree(() => noteBuilt([built], `${by}: done. As built: ${words}.`));
    return null;
  }
  const came_ = came === 'done' ? 'done' : came === 'cannot' ? 'cannot' : 'says';
  notify(`${by}: ${came_}${text === '' ? '' : `: ${text}`} (${asked.entry.text})`);
  return null;
}

function built(said: Of<'built'>, by: string): string | null {
  const { session } = sessionStore.getState();
  const array = arrayOf(said.arrayId);
  if (!session || !array) return THERE;
  const { arrayId, field } = said;
  const planned = builtFigures(session).find(
    (one) => one.arrayId === arrayId && one.field === field,
  )?.planned;
  if (planned === undefined) return `${array.name} has no such figure.`;
  const value = said.asPlanned
    ? planned
    : said.value === null
      ? null
      : fromFloor(arrayId, field, said.value);
  const wrong = value === null ? null : beyond(field, value);
  if (wrong !== null) return wrong;
  const words =
    value === null
      ? `${array.name}, ${FIELD_WORDS[field]}: not looked at after all`
      : `${figureWords(array, field, value)}${said.asPlanned ? ', as planned' : ''}`;
  const why = enterAs(said.id, by, { kind: 'note', text: `As built: ${words}.`, about: [arrayId] });
  if (why !== null) return why;
  whenFree(() =>
    value === null
      ? void edit((draft) => {
          draft.rig.asBuilt = draft.rig.asBuilt.filter(
            (one) => one.arrayId !== arrayId || one.field !== field,
          );
        })
      : noteBuilt([{ arrayId, field, value }], `${by}, as built: ${words}.`),
  );
  return null;
}

function planned(said: Of<'plan'>, by: string, mayEdit: boolean): string | null {
  if (!mayEdit) return 'The booth does not let the stage change the plan.';
  const { field, arrayId } = said;
  const array = arrayOf(arrayId);
  if (!array) return THERE;
  const isPair = field === 'spacingM' || field === 'includedAngleDeg';
  if (field === 'rightDb' || (isPair && array.technique.kind !== 'pair')) {
    return `${array.name} has no such figure in the plan.`;
  }
  const value = fromFloor(arrayId, field, said.value);
  const wrong = beyond(field, value);
  if (wrong !== null) return wrong;
  const words = figureWords(array, field, value);
  const why = enterAs(said.id, by, {
    ...{ kind: 'note', text: `The plan is changed from the stage: ${words}.`, about: [arrayId] },
  });
  if (why !== null) return why;
  whenFree(() => {
    edit((draft) => {
      const found = draft.arrays.find(({ id }) => id === arrayId);
      if (!found) return;
      if (!isPair) found[field] = value;
      else if (found.technique.kind === 'pair') found.technique[field] = value;
    });
    notify(`${by} has changed the plan: ${words}.`);
  });
  return null;
}

async function pictured(said: Of<'photograph'>, by: string): Promise<string | null> {
  let bytes: Uint8Array<ArrayBuffer>;
  try {
    bytes = Uint8Array.from(atob(said.data), (one) => one.charCodeAt(0));
  } catch {
    return 'The picture did not arrive whole.';
  }
  const isJpeg = bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff;
  if (!isJpeg) return 'What arrived is no picture.';
  if (bytes.length > STAGE_LIMITS.photographBytes) return 'The picture is too large.';
  const reference = await takeInBlob(new Blob([bytes], { type: 'image/jpeg' }), said.name);
  const why = enterAs(
    said.id,
    by,
    {
      kind: 'note',
      text: said.text || 'A photograph from the stage.',
      photographs: [reference.id],
    },
    [reference],
  );
  if (why === null) notify(`${by} sent a photograph.`);
  return why;
}

/**
 * Takes in what a device said.
 * @param by its name
 * @returns why it was not taken; null where it was, now or before
 */
export async function takeIn(said: Said, by: string, mayEdit: boolean): Promise<string | null> {
  if (isKnown(said.id)) return null;
  try {
    switch (said.kind) {
      case 'answer':
        return answered(said, by);
      case 'built':
        return built(said, by);
      case 'plan':
        return planned(said, by, mayEdit);
      case 'note': {
        const why = enterAs(said.id, by, { kind: 'note', text: said.text });
        if (why === null) notify(`${by}: ${said.text}`);
        return why;
      }
      case 'photograph':
        return await pictured(said, by);
    }
  } catch (error) {
    return error instanceof Error ? error.message : NOT_KEPT;
  }
}
