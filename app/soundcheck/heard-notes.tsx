import { useState } from 'react';
import { HEARD_WORDS } from '../../core/session';
import { enter, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { DEGREES, noteText, notesAbout } from '../../core/soundcheck';

const CHOICES = [-2, -1, 0, 1, 2] as const;

interface Props {
  /** what is heard: the option, the take, the recording; blind the comparison alone */
  of: string;
  name: string;
  /** said without knowing which it is: told the entry, so that what it was of is added in the end */
  blind?: { by: string; said: (entry: string) => void };
}

/** What is heard of it, in words that are always the same, of one player or of the whole. */
export function HeardNotes({ of, name, blind }: Props) {
  const session = useSession();
  const [player, setPlayer] = useState('');
  const [by, setBy] = useState(blind?.by ?? '');
  const [text, setText] = useState('');
  const [degrees, setDegrees] = useState<Readonly<Record<string, number>>>({});
  const notes = blind ? [] : notesAbout(session, of);
  const judged = HEARD_WORDS.flatMap((word) => {
    const degree = degrees[word];
    return degree === undefined ? [] : [{ word, degree }];
  });
  const empty = judged.length === 0 && text.trim() === '';
  const say = (): void => {
    if (empty) return;
    const id = enter('log', {
      ...{ kind: 'note' as const, by: by.trim(), text: text.trim(), blind: blind !== undefined },
      about: [of],
      players: player === '' ? [] : [player],
      judged,
    });
    if (id === '') return;
    blind?.said(id);
    setText('');
    setDegrees({});
  };
  return (
    <details className="pt-3">
      <summary className="cursor-pointer">
        What is heard of {name}
        {notes.length > 0 && ` (${notes.length} said)`}
      </summary>
      <div role="form" aria-label="What is heard" className="pt-2">
        <div className="grid grid-cols-4 gap-x-4 gap-y-1 max-md:grid-cols-2">
          {HEARD_WORDS.map((word) => (
            <label key={word} className="flex flex-col">
              <span className="text-muted">{word}</span>
              <select
                className="select select-sm w-full"
                value={degrees[word] ?? ''}
                onChange={(event) => {
                  const { value } = event.currentTarget;
                  setDegrees((all) => {
                    const { [word]: _said, ...others } = all;
                    return value === '' ? others : { ...others, [word]: Number(value) };
                  });
                }}
              >
                <option value="">not said</option>
                {CHOICES.map((degree) => (
                  <option key={degree} value={degree}>
                    {DEGREES[degree]}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
        <div className="flex flex-wrap items-end gap-3 pt-2">
          <label className="flex flex-col">
            <span className="text-muted">Of whom</span>
            <select
              className="select select-sm w-44"
              value={player}
              onChange={(event) => setPlayer(event.currentTarget.value)}
            >
              <option value="">the whole</option>
              {session.sources.map((source) => (
                <option key={source.id} value={source.id}>
                  {source.name}
                </option>
              ))}
            </select>
          </label>
          {!blind && (
            <label className="flex flex-col">
              <span className="text-muted">Who says it</span>
              <input
                className="input input-sm w-40"
                maxLength={200}
                value={by}
                onChange={(event) => setBy(event.currentTarget.value)}
              />
            </label>
          )}
          <label className="flex min-w-48 flex-1 flex-col">
            <span className="text-muted">In other words</span>
            <input
              className="input input-sm w-full"
              maxLength={5000}
              value={text}
              onChange={(event) => setText(event.currentTarget.value)}
              onKeyDown={(event) => event.key === 'Enter' && say()}
            />
          </label>
          <button className="btn btn-sm" disabled={empty} onClick={say}>
            Into the diary
          </button>
        </div>
      </div>
      <ul aria-label={`Heard of ${name}`} className="pt-2">
        {notes.map((note) => (
          <li key={note.id} className="flex items-baseline gap-3">
            <span className="flex-1">{noteText(note, session)}</span>
            <button className="btn btn-ghost btn-xs" onClick={() => strike('log', note.id)}>
              Strike it
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
