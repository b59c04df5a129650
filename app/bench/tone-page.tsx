import type { PageProps } from './asked';
import { OverDryTime } from './over-dry';
import { Peaks } from './peaks';
import { ToneNotes } from './tone-notes';

/** What stands out of a recording's tone, what processing did to its level, and what is done to each layer. */
export function TonePage(props: PageProps) {
  return (
    <section aria-label="Tone">
      <Peaks {...props} />
      <OverDryTime {...props} />
      <ToneNotes />
    </section>
  );
}
