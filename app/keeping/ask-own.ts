import type { Session } from '../../core/session';

/** A listener's own localisation model leaves this browser only where its listener says so. */

/** The same session without the model; a reader falls back to the consensus and says so. */
export const withoutOwn = (session: Session): Session =>
  session.settings.own === null
    ? session
    : { ...session, settings: { ...session.settings, own: null } };

const CLASSES =
  'border-hairline bg-base-200 text-base-content m-auto w-[440px] max-w-[92vw] rounded-[3px] border p-5 backdrop:bg-black/30';

/** Asks with a dialog of its own: there is none other at every door, and errors export as well. */
function asked(name: string): Promise<'with' | 'without' | null> {
  return new Promise((resolve) => {
    const dialog = document.createElement('dialog');
    dialog.className = CLASSES;
    dialog.setAttribute('aria-labelledby', 'ask-own-heading');
    const heading = document.createElement('h2');
    heading.id = 'ask-own-heading';
    heading.className = 'pb-2 text-[17px]';
    heading.textContent = 'Your own model goes with it?';
    const text = document.createElement('p');
    text.className = 'pb-4';
    text.textContent = `The session carries how you hear${name === '' ? '' : ` (${name})`}. Without it a reader sees the images of the consensus, and is told so.`;
    const row = document.createElement('div');
    row.className = 'flex flex-wrap gap-3';
    let said: 'with' | 'without' | null = null;
    for (const [label, value, look] of [
      ['Without it', 'without', 'btn-primary'],
      ['With it', 'with', ''],
      ['Cancel', null, 'btn-ghost'],
    ] as const) {
      const button = document.createElement('button');
      button.className = `btn btn-sm ${look}`;
      button.textContent = label;
      button.onclick = () => {
        said = value;
        dialog.close();
      };
      row.append(button);
    }
    dialog.onclose = () => {
      dialog.remove();
      resolve(said);
    };
    dialog.append(heading, text, row);
    document.body.append(dialog);
    dialog.showModal();
  });
}

/**
 * The session as it may leave: with the listener's own model or without it, as is said when asked.
 * @returns null where nothing is to leave
 */
export async function allowedToLeave(session: Session): Promise<Session | null> {
  if (session.settings.own === null) return session;
  const said = await asked(session.settings.own.name);
  return said === null ? null : said === 'with' ? session : withoutOwn(session);
}
