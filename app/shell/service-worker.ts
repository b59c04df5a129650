import { registerSW } from 'virtual:pwa-register';
import { loadedAnew, loadedAnewUnasked } from '../keeping/leaving';
import { notify } from '../view/notices';

/** Makes the page work without a network after the first visit; a new version asks first. */
export function registerServiceWorker(): void {
  if (!import.meta.env.PROD) return;
  let asked = false;
  const update = registerSW({
    onNeedRefresh() {
      notify('A new version is ready.', {
        label: 'Load it',
        run() {
          asked = true;
          void loadedAnew(() => void update(true));
        },
      });
    },
    // The new version serves all tabs; each is loaded anew when its own user says so.
    onNeedReload() {
      if (asked) return void loadedAnew();
      notify('Another tab has loaded a new version.', {
        label: 'Load it here',
        run: () => void loadedAnew(),
      });
    },
  });
}

const KEY = 'rotunda-loaded-anew';
const ONCE_IN_MS = 60_000;

/**
 * Loads the page again once everything is stored; not over and over where that does not help.
 * @returns whether it will
 */
export function loadAnew(): boolean {
  const last = Number(sessionStorage.getItem(KEY) ?? 0);
  if (Date.now() - last < ONCE_IN_MS) return false;
  sessionStorage.setItem(KEY, `${Date.now()}`);
  void loadedAnewUnasked();
  return true;
}
