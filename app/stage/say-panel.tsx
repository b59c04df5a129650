import { Camera } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { STAGE_LIMITS } from '../../core/stage';
import { readPicture } from '../keeping/read-picture';
import { deviceStore, say } from './device';
import { Limits } from './join-form';

/** Longest side of a photograph that is sent, tried in turn until it is small enough, px. */
const SIDES_PX = [1600, 1200, 800];

const base64 = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () =>
      resolve(typeof reader.result === 'string' ? reader.result.replace(/^[^,]*,/, '') : '');
    reader.onerror = () => reject(new Error('the picture cannot be read'));
    reader.readAsDataURL(blob);
  });

/** A photograph, made small here; @throws where it cannot be read */
async function shrunk(file: File): Promise<string> {
  for (const side of SIDES_PX) {
    const read = await readPicture(file, side);
    if (!read.ok) throw new Error(read.message);
    if (read.picture.size <= STAGE_LIMITS.photographBytes) return base64(read.picture);
  }
  throw new Error(`${file.name}: too large, however small it is made.`);
}

/** Words and photographs for the booth's log. */
export function SayPanel() {
  const sending = useStore(
    deviceStore,
    (state) => state.pending.filter(({ kind }) => kind === 'photograph' || kind === 'note').length,
  );
  const [text, setText] = useState('');
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState('');
  return (
    <div className="flex flex-col gap-5">
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === '') return;
          say({ kind: 'note', text: text.trim() });
          setText('');
        }}
      >
        <label className="flex flex-col gap-1">
          <span>A word to the booth</span>
          <textarea
            className="textarea textarea-lg w-full"
            rows={3}
            maxLength={2000}
            value={text}
            onChange={(event) => setText(event.currentTarget.value)}
          />
        </label>
        <button className="btn btn-lg btn-primary" disabled={text.trim() === ''}>
          Say it
        </button>
      </form>
      <label className={`btn btn-lg ${busy ? 'btn-disabled' : ''}`}>
        <Camera size={20} /> {busy ? 'The picture is made small …' : 'Photograph to the log'}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          disabled={busy}
          onChange={(event) => {
            const [file] = event.currentTarget.files ?? [];
            event.currentTarget.value = '';
            if (!file) return;
            setBusy(true);
            setWrong('');
            shrunk(file)
              .then((data) =>
                say({
                  kind: 'photograph',
                  name: file.name.slice(0, 200),
                  text: text.trim().slice(0, 500),
                  data,
                }),
              )
              .catch((error: unknown) =>
                setWrong(error instanceof Error ? error.message : 'It cannot be read.'),
              )
              .finally(() => setBusy(false));
          }}
        />
      </label>
      {wrong !== '' && (
        <p role="alert" className="text-error">
          {wrong}
        </p>
      )}
      <p role="status" aria-label="Sent">
        {sending === 0 ? '' : `${sending} on the way to the booth …`}
      </p>
      <Limits />
    </div>
  );
}
