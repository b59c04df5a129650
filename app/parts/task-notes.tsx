interface Props {
  /** what is under way, in one word: "Summing" */
  doing: string;
  error: string | null;
  busy: boolean;
  /** an answer stands already, perhaps an older one */
  answered: boolean;
  /** 0 … 1 */
  progress: number;
}

/** What is to be said of a figure that is computed beside the page, until it is there. */
export function TaskNotes({ doing, error, busy, answered, progress }: Props) {
  if (error !== null) return <p role="alert">Not computed: {error}</p>;
  if (!busy || answered) return null;
  return <progress aria-label={doing} className="progress w-40" value={progress} max={1} />;
}
