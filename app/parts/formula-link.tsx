import { Link } from 'react-router';

/** From a figure to the model behind it, in a page of its own. */
export function FormulaLink({ to, children }: { to: string; children: string }) {
  return (
    <Link
      to={`/formulas#${to}`}
      target="_blank"
      className="text-muted text-[12px] underline underline-offset-2"
    >
      {children}
    </Link>
  );
}
