import type { Source } from '../session/schema';

const LID_WORDS: Readonly<Record<Exclude<Source['lid'], 'none'>, string>> = {
  closed: 'lid closed',
  'short-stick': 'lid on the short stick',
  'full-stick': 'lid on the full stick',
  off: 'lid taken off',
};

/** How an instrument is to stand: lid, panels, felt; empty where there is nothing to set. */
export function stateWords({
  lid,
  openPanels,
  felt,
}: Pick<Source, 'lid' | 'openPanels' | 'felt'>): string {
  return [
    ...(lid === 'none' ? [] : [LID_WORDS[lid]]),
    ...openPanels.map((panel) => `${panel} ${panel === 'top lid' ? 'open' : 'off'}`),
    ...(felt ? ['felt down'] : []),
  ].join(', ');
}
