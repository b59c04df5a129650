import { Marked } from 'marked';
import { useEffect } from 'react';
import { Link, useLocation } from 'react-router';
import text from '../../docs/formulas.md?raw';

/** "Recording angle" → "recording-angle" */
function anchorOf(heading: string): string {
  return heading
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
}

const markdown = new Marked({
  renderer: {
    heading({ text: heading, depth }) {
      return `<h${depth} id="${anchorOf(heading)}">${heading}</h${depth}>`;
    },
  },
});

// The text is part of the product, not input: nothing foreign becomes markup here.
const HTML = markdown.parse(text, { async: false });

/** Every model with its formula, source and range. */
export default function FormulasPage() {
  const { hash } = useLocation();
  useEffect(() => {
    document.title = 'Formulas · Rotunda';
    document.getElementById(hash.slice(1))?.scrollIntoView();
  }, [hash]);
  return (
    <main className="h-full overflow-y-auto" tabIndex={0}>
      <div className="mx-auto max-w-3xl px-6 py-6">
        <p className="pb-4">
          <Link className="text-primary underline underline-offset-2" to="/">
            All sessions
          </Link>
        </p>
        <article className="formulas" dangerouslySetInnerHTML={{ __html: HTML }} />
      </div>
    </main>
  );
}
