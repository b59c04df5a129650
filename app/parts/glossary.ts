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
} as const;
