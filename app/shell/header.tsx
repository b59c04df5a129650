import { Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react';
import { lazy, memo, Suspense } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { modelsIn } from '../../core/localisation';
import { formatTemperature, type UnitSystem } from '../../core/units';
import { ChoiceField } from '../parts/fields';
import { GLOSSARY } from '../parts/glossary';
import { edit, sessionStore } from '../document/session-store';
import { setTheme, themeStore } from '../view/theme';
import { openPalette } from './shortcuts';
import { useHistoryDepth } from '../document/use-session';
import { redoSaying, undoSaying } from './history';
import { SaveIndicator } from './save-indicator';

const YourPlaces = lazy(() => import('../image-line/your-places'));

function longDate(iso: string): string {
  const date = new Date(`${iso}T12:00:00`);
  if (iso === '' || Number.isNaN(date.getTime())) return iso;
  return date.toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  });
}

function UnitSwitch({ units }: { units: UnitSystem }) {
  const option = (value: UnitSystem, label: string) => (
    <button
      aria-pressed={units === value}
      className={`border-b-2 px-2 py-1 pointer-coarse:min-h-10 ${units === value ? 'border-primary font-semibold' : 'text-muted border-transparent'}`}
      onClick={() => edit((draft) => void (draft.settings.units = value))}
    >
      {label}
    </button>
  );
  return (
    <div role="group" aria-label="Units" className="flex max-sm:hidden">
      {option('metric', 'm / cm')}
      {option('imperial', 'ft / in')}
    </div>
  );
}

/** Title, model, units, history and save state; drawn anew only when one of them changes. */
export const Header = memo(function Header() {
  const title = useStore(sessionStore, ({ session }) => session?.title ?? '');
  const venue = useStore(sessionStore, ({ session }) => session?.venue);
  const date = useStore(sessionStore, ({ session }) => session?.brief.date ?? '');
  const settings = useStore(sessionStore, ({ session }) => session?.settings);
  const depth = useHistoryDepth();
  const theme = useStore(themeStore, (state) => state.theme);
  if (!venue || !settings) return null;
  const { number, unit } = formatTemperature(venue.temperatureC, settings.units);
  const facts = [venue.name, longDate(date), `${number} ${unit}`];
  return (
    <header className="no-print border-hairline bg-base-200 flex h-[52px] shrink-0 items-center gap-3 border-b pr-4 whitespace-nowrap max-md:gap-1">
      <Link
        to="/"
        aria-label="All sessions"
        title="All sessions"
        className="mark text-primary flex h-full w-[72px] max-sm:w-14 shrink-0 items-center justify-center text-[26px] leading-none"
      >
        R
      </Link>
      <div className="min-w-28 flex-1 overflow-hidden">
        <h1 className="truncate text-[16px] leading-tight" title={title}>
          {title}
        </h1>
        <p className="text-muted truncate text-[12.5px]">{facts.filter(Boolean).join(' · ')}</p>
      </div>
      <div className="flex items-center max-sm:hidden">
        <span className="text-muted text-[12.5px] max-md:sr-only" title={GLOSSARY.model}>
          Image by
        </span>
        <ChoiceField
          hideLabel
          label="Model that leads"
          value={settings.model}
          options={modelsIn(settings).map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(model) => edit((draft) => void (draft.settings.model = model))}
        />
        <Suspense>
          <YourPlaces model={settings.model} />
        </Suspense>
      </div>
      <UnitSwitch units={settings.units} />
      <div className="flex">
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Undo"
          title="Undo (Ctrl Z)"
          disabled={depth.undo === 0}
          onClick={undoSaying}
        >
          <Undo2 size={17} />
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Redo"
          title="Redo (Ctrl Shift Z)"
          disabled={depth.redo === 0}
          onClick={redoSaying}
        >
          <Redo2 size={17} />
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={theme === 'dark' ? 'Light theme' : 'Dark theme'}
          title={theme === 'dark' ? 'Light theme' : 'Dark theme'}
          onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
        >
          {theme === 'dark' ? <Sun size={16} /> : <Moon size={16} />}
        </button>
      </div>
      <SaveIndicator />
      <button
        className="btn btn-sm text-muted border-hairline bg-transparent font-normal max-sm:hidden"
        onClick={openPalette}
      >
        <Search size={14} /> <span className="max-md:sr-only">Find or do</span>{' '}
        <kbd className="text-[11px] max-md:hidden">Ctrl K</kbd>
      </button>
    </header>
  );
});
