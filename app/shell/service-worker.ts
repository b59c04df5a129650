import { registerSW } from 'virtual:pwa-register';
import { notify } from '../state/ui-store';

/** Makes the page work without a network after the first visit; a new version asks first. */
export function registerServiceWorker(): void {
  if (!import.meta.env.PROD) return;
  const update = registerSW({
    onNeedRefresh() {
      notify('A new version is ready.', { label: 'Load it', run: () => void update(true) });
    },
  });
}
