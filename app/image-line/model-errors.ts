import type { ListenerErrors, ModelError } from '../../core/localisation/heard';
import { formatNumber, formatSigned } from '../../core/units';

/** "+2 ± 1 %", farther out than heard. */
export function outwardText({ outward, within }: ModelError): string {
  if (outward === null) return 'not told';
  const mean = formatSigned(100 * outward, 0);
  return within === null ? `${mean} %` : `${mean} ± ${formatNumber(100 * within, 0)} %`;
}

/** "Anna’s 61 places, by loudspeakers" */
export const listenerText = ({ by, places, through }: ListenerErrors): string =>
  `${by === '' ? 'your' : `${by}’s`} ${places} ${places === 1 ? 'place' : 'places'} by ${through}`;

/** What one listener’s answers say of every model, in one line. */
export const errorsText = (of: ListenerErrors): string =>
  `${listenerText(of)}: ${of.models.map((one) => `${one.name} ${outwardText(one)}`).join(', ')}`;

export const OUTWARD_WORDS =
  'Plus: the model puts them farther out than they were heard; ± is the 95 % interval of the mean.';
