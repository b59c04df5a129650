import { Marked } from 'marked';
import { useEffect, useMemo } from 'react';
import { Link, useLocation } from 'react-router';

/** "Recording angle" → "recording-angle" */
function anchorOf(heading: string): string {
  return heading
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
}

interface Props {
  title: string;
  /** markdown that is part of the product */
  text: string;
  /** where a picture of the text is found, by its file name */
  pictures?: Readonly<Record<string, string>>;
}

/** A text that ships with the product, at an address of its own. */
export function DocumentPage({ title, text, pictures = {} }: Props) {
  const { hash } = useLocation();
  const html = useMemo(() => {
    const markdown = new Marked({
      renderer: {
        heading({ text: heading, depth }) {
          return `<h${depth} id="${anchorOf(heading)}">${heading}</h${depth}>`;
        },
        image({ href, text: alt }) {
          const src = pictures[href.split('/').pop() ?? ''];
          return src ? `<img src="${src}" alt="${alt}" loading="lazy" />` : '';
        },
      },
    });
    // The text is part of the product, not input: nothing foreign becomes markup here.
    return markdown.parse(text, { async: false });
  }, [text, pictures]);
  useEffect(() => {
    document.title = `${title} · Rotunda`;
    document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash, title]);
  return (
    <main className="h-full overflow-y-auto" tabIndex={0}>
      <div className="mx-auto max-w-3xl px-6 py-6">
        <p className="pb-4">
          <Link className="text-primary underline underline-offset-2" to="/">
            All sessions
          </Link>
        </p>
        <article className="formulas" dangerouslySetInnerHTML={{ __html: html }} />
      </div>
    </main>
  );
}
