import { memo } from 'react';
import { useNavigate } from 'react-router';
import { ageText, ratingText, searchWords, type FoundDocument, type Hit } from '../../core/recall';
import { useSession } from '../document/use-session';
import { stationPath } from '../stations';

/** Where a thing opens: its session, its station, its page. */
export function addressOf(doc: FoundDocument, here: string): string {
  const base = stationPath(doc.session === '' ? here : doc.session, doc.station);
  const [, kind, key] = doc.id.split('/');
  // A mark is looked at on the plan that it was measured on.
  const at = kind === 'mark' && key !== undefined ? `&mark=${encodeURIComponent(key)}` : '';
  return doc.page === '' ? base : `${base}?page=${doc.page}${at}`;
}

/** A text with the words that were found in it. */
function Marked({ text, words }: { text: string; words: readonly string[] }) {
  if (words.length === 0) return <>{text}</>;
  return (
    <>
      {text.split(/([\p{L}\p{N}]+)/u).map((part, i) => {
        const [plain = ''] = searchWords(part);
        return plain !== '' && words.includes(plain) ? (
          <mark key={i} className="bg-transparent font-semibold text-inherit underline">
            {part}
          </mark>
        ) : (
          part
        );
      })}
    </>
  );
}

/** So much of a text before and after what was found. */
const MOST_TEXT = 160;

/** The part of a text in which something was found. */
function around(text: string, words: readonly string[]): string {
  if (text.length <= MOST_TEXT) return text;
  const lower = text.toLowerCase();
  const at = words.map((word) => lower.indexOf(word)).find((place) => place >= 0) ?? 0;
  const from = Math.max(0, at - 40);
  return `${from > 0 ? '… ' : ''}${text.slice(from, from + MOST_TEXT)}${from + MOST_TEXT < text.length ? ' …' : ''}`;
}

interface Props {
  hits: readonly Hit[];
}

/** What was found, each with where it is from; a click opens it there. */
function HitList({ hits }: Props) {
  const { id } = useSession();
  const navigate = useNavigate();
  const now = new Date().toISOString();
  return (
    <ol aria-label="Found">
      {hits.map(({ doc, words }) => (
        <li key={doc.id} className="border-hairline border-b">
          <button
            className="hover:bg-base-200 w-full cursor-pointer py-1.5 text-left"
            onClick={() => void navigate(addressOf(doc, id))}
          >
            <span className="flex flex-wrap items-baseline gap-x-3">
              <span className="text-muted w-24 shrink-0">{doc.kind}</span>
              <span className="font-semibold">
                <Marked text={doc.title} words={words} />
              </span>
              {doc.rating !== null && <span>{ratingText(doc.rating)}</span>}
              <span className="text-muted">
                {[
                  doc.session === id ? 'this session' : doc.sessionTitle,
                  doc.hall !== doc.title ? doc.hall : '',
                  ageText(doc.at, now),
                ]
                  .filter((part) => part !== '')
                  .join(' · ')}
              </span>
            </span>
            {doc.text !== '' && (
              <span className="text-muted block pl-27 text-[12.5px] max-md:pl-0">
                <Marked text={around(doc.text, words)} words={words} />
              </span>
            )}
          </button>
        </li>
      ))}
    </ol>
  );
}

/** Drawn anew with an answer, not with every letter. */
export const Hits = memo(HitList);
