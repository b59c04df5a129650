import { CAUSE_RULES } from './causes';
import { DRUM_RULES } from './drum-heads';
import { EQUIPMENT_RULES } from './equipment';
import type { Rule } from './finding';
import { HALL_RULES } from './hall';
import { HALL_ANSWER_RULES } from './hall-answers';
import { MONO_RULES } from './mono-sum';
import { PAIR_RULES } from './pair-numbers';
import { PHANTOM_RULES } from './phantom';
import { PICTURE_RULES } from './picture';
import { REFLECTION_RULES } from './reflection';
import { SAFETY_RULES } from './safety';
import { SHADOW_RULES } from './shadow';
import { SET_UP_RULES } from './set-up';
import { SOUND_RULES } from './sound';
import { SPOT_RULES } from './spots';
import { SUPPORT_RULES } from './supports';

/** Every rule, as data: code, what it stands on, its reason, and how it looks. Causes come first. */
export const RULES: readonly Rule[] = [
  ...CAUSE_RULES,
  ...PAIR_RULES,
  ...PICTURE_RULES,
  ...MONO_RULES,
  ...SOUND_RULES,
  ...SPOT_RULES,
  ...DRUM_RULES,
  ...SUPPORT_RULES,
  ...SHADOW_RULES,
  ...REFLECTION_RULES,
  ...HALL_ANSWER_RULES,
  ...HALL_RULES,
  ...SET_UP_RULES,
  ...PHANTOM_RULES,
  ...EQUIPMENT_RULES,
  ...SAFETY_RULES,
];
