import { TAKE_KINDS } from '../core/audio/render/take-kinds';
import { SIGNAL_NAMES } from '../core/audio/signal/generate';
import { MODEL_IDS } from '../core/localisation';
import { SYMPTOMS } from '../core/soundcheck';
import { TOPICS } from './detail';

/** Names of symptoms, as many a line as fit. */
const symptomIds = SYMPTOMS.map(({ id }) => id)
  .reduce<string[]>((lines, id) => {
    const last = lines.pop() ?? '';
    const longer = last === '' ? `      ${id}` : `${last}, ${id}`;
    return longer.length <= 92 ? [...lines, longer] : [...lines, `${last},`, `      ${id}`];
  }, [])
  .join('\n');

export const HELP = `rotunda COMMAND …

  pair --pattern P --spacing M --angle DEG [--temperature C] [--distance M] [--height M]
      recording angles of a pair in every model; in place too when a distance is given
  solve --half DEG [--model S] [--distance M] [--height M] [--temperature C]
      arrays that have a wanted half recording angle
  validate FILE
      checks a session file; every problem on a line
  map --pattern P [--spacing M] [--angle DEG] [--cells N] [--temperature C]
      half recording angles over spacings and included angles up to the given ones
  analyse FILE
      every figure of a session as JSON
  detail FILE --of TOPIC [--array ID]
      one kind of figure at full length: ${TOPICS.join(', ')}
  check FILE
      all findings; exit status 1 where one of them is blocking
  rig FILE [--csv | --pdf] [--table NAME]
      positions, channels, pack, build, cables, as-built: JSON, CSV of one or all, or a PDF
  measure FILE… [--what levels,bands,hum,delays,decay,identity,resonances] [--from S] [--to S]
      [--against N] [--most MS] [--decay N] [--taps N,N,…] [--left S-S] [--mid-side N,N[,N]]
      [--match N,N] [--channel N --front S-S --rear S-S [--side S-S]] [--columns N]
      [--high-pass HZ] [--report OUT.pdf]
      what a recording holds: WAV or FLAC, or the files of a take
  measure FILE… --against SESSION [--claps] [--order NAME,NAME,… | --leads] [--report OUT.pdf]
      a take in which one after the other is alone, held against the plan: what departs, and why
  measure FILE… --claps --bar SESSION [--at X,Y,Z;X,Y,Z;…] [--tape CM] [--plumb]
      how the microphones really stand, by claps at places that were taped, with intervals
  process FILE… --out FILE.wav [--from S] [--to S] [--channels N,N,…] [--decode MID,SIDE]
      [--side-db DB] [--side-high-pass HZ] [--align N,N,… [--against N] [--plus MS] [--most MS]]
      [--shift MS,MS,…] [--gain DB,DB,…] [--invert N,N,…] [--fold mono|stereo] [--rate HZ]
      [--bits 16|24|32] [--float] [--no-dither]
      a recording with something done to it, as a WAV file that is read back
  render FILE --out TAKE.wav [--seconds S] [--rate HZ] [--seed N] [--phrase NAME] [--sound NAME]
      [--array NAME]… [--player NAME]… [--take NAME] [--claps X,Y;X,Y;…] [--dry] [--plain]
      what the planned microphones would record, marked as a simulation: ${TAKE_KINDS.join(', ')};
      all but music go from player to player, or from place to place, as long as it takes
  signal NAME --out FILE [--seconds S] [--rate HZ] [--seed N] [--hz HZ] [--level DB] [--delay MS]
      [--correlation R] [--rt60 S]
      a test signal as WAV: ${SIGNAL_NAMES.join(', ')}
  advise FILE
      ranked arrays for the session's players, intent, hall and kit
  soundcheck FILE [--csv]
      what was tried, heard and chosen: the report of a soundcheck as JSON, or its entries as CSV
  soundcheck FILE --symptom ID [--player NAME]
      what could be moved about what somebody hears, each tried on a copy:
${symptomIds}
  recall FILE [OTHER…]
      what is missing for it to be put up again, its marks and listening spots, and what of other
      sessions is offered for it: the same hall, or the same instrument
  difference FROM TO [--csv]
      what is other in the second session, change by change, with what each does; FILE may be the
      PDF of a sheet wherever a session is asked for

With only one of --spacing and --angle, pair gives a range and a question.
S is ${MODEL_IDS.join(', ')}; consensus where it is left out.
P is omni, subcardioid, cardioid, supercardioid, hypercardioid, figure-eight or a number from 0 to 1.
Results go to standard output, progress and problems to standard error.
Exit status: 0 done, 1 bad input, 2 wrong usage.`;
