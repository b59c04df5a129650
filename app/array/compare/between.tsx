import { useState } from 'react';
import { ChoiceField } from '../../parts/fields';
import type { Measured } from './measured';

/** What is different between two of the entries, figure by figure. */
export function Between({ list }: { list: readonly Measured[] }) {
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState(1);
  const [first, second] = [list[from] ?? list[0], list[to] ?? list[1]];
  if (!first || !second) return null;
  const options = list.map(({ entry }, i) => ({ value: `${i}`, label: entry.name }));
  const changed = Object.entries(first.values).flatMap(([name, { text }]) => {
    const other = second.values[name]?.text ?? '—';
    return other === text ? [] : [{ name, text, other }];
  });
  return (
    <section aria-label="Between two" className="pt-5">
      <h3 className="text-[14px]">Between two of them</h3>
      <div className="grid max-w-xl grid-cols-2 gap-x-6">
        <ChoiceField
          label="From"
          value={`${list.indexOf(first)}`}
          options={options}
          onChange={(value) => setFrom(Number(value))}
        />
        <ChoiceField
          label="to"
          value={`${list.indexOf(second)}`}
          options={options}
          onChange={(value) => setTo(Number(value))}
        />
      </div>
      {changed.length === 0 ? (
        <p className="text-muted py-1">Nothing changes.</p>
      ) : (
        <ul className="py-1" aria-label="What changes">
          {changed.map(({ name, text, other }) => (
            <li key={name} className="py-0.5">
              <span className="text-muted">{name}:</span> {text} → <strong>{other}</strong>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
