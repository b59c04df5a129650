/** What the words of the page mean, once for all places where they are hovered. */
export const GLOSSARY = {
  'image width':
    'From the leftmost edge of an image to the rightmost, percent of the base between the loudspeakers.',
  'largest gap': 'The widest empty stretch between neighbours, percent of the base.',
  'at the loudspeakers':
    'Players whose image lies in a loudspeaker: outside the recording angle they crowd there.',
  head: 'Where the model that leads places the middle of a player.',
  bar: 'From the narrowest to the widest of the models of both cues: how far they agree.',
  model:
    'How level and time differences between the channels become a place. They disagree; the median of three leads unless you choose.',
  datum:
    'The point that all places are measured from: the front edge of the stage on its centre line, on the floor.',
  q: 'Directivity factor: how much stronger it radiates to its strong side than evenly all round. 1 is all round, a trumpet about 4.',
  'direct to room':
    'Level of the direct sound against that of the reverberation at the array, dB. 0 at the critical distance.',
  fill: 'Image width against what the brief wants: 100 % spans the loudspeakers.',
  gap: 'An empty stretch between two neighbours of the picture.',
  'recording angle':
    'Half angle off the aim at which an image first reaches a loudspeaker; what lies outside crowds there.',
  'in place':
    'With the players at their own distance and height; the far field takes them as distant.',
  'far field': 'Distant sources in the array’s own plane: the textbook view.',
  'included angle': 'Between the axes of both capsules; each is turned by half of it.',
  spacing: 'From capsule to capsule, not from body to body.',
  tilt: 'Elevation of the aim: 0 level, −90° straight down.',
  aim: 'Where the array looks on the plan: 0 straight upstage, positive to the right.',
  'side level': 'Of the side against the mid before decoding: more is wider.',
  phantom:
    'Power for the microphone over its cable; a ribbon that must not have it can be destroyed.',
  polarity: 'Inverted turns the wave over: against another microphone it cancels what is common.',
  pan: 'Share of a channel left and right by the level law of sine and cosine.',
  'seen from there':
    'Its sounding width across the line of sight: an instrument seen from its end is narrow.',
  correlation:
    'Likeness of both channels in the reverberation: 1 the same, 0 independent and spacious.',
  'sounding width': 'Across the way it faces, between the ends of what sounds.',
  'sounding depth': 'Along the way it faces, of what sounds: the strings of a grand.',
  'measured from':
    'The surface that the height is set out from; the plan keeps it above the floor.',
} as const;

/** What a label means, by the words it begins with; nothing where they are plain. */
export function aboutWord(label: string): string | undefined {
  const words = label.toLowerCase();
  const known = (Object.keys(GLOSSARY) as (keyof typeof GLOSSARY)[])
    .filter((word) => word.length > 2 && words.startsWith(word))
    .sort((a, b) => b.length - a.length)[0];
  return known && GLOSSARY[known];
}
