import { createStore } from 'zustand/vanilla';

export type Theme = 'light' | 'dark';

const KEY = 'rotunda-theme';
const current = (): Theme =>
  document.documentElement.dataset.theme === 'rotunda-dark' ? 'dark' : 'light';

export const themeStore = createStore<{ theme: Theme }>(() => ({ theme: current() }));

export function setTheme(theme: Theme): void {
  document.documentElement.dataset.theme = `rotunda-${theme}`;
  themeStore.setState({ theme });
  try {
    localStorage.setItem(KEY, theme);
  } catch {
    // The choice then lasts as long as the page.
  }
}
