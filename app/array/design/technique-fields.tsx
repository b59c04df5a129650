import { fieldKey } from '../../view/validity';
import {
  crossedEquivalent,
  STARTING_TECHNIQUES,
  techniqueName,
  type TechniqueName,
} from '../../../core/arrays';
import { useMemo } from 'react';
import { patternAOf } from '../../../core/acoustics';
import { alterationOf, standardSetUp } from '../../../core/analysis';
import {
  FALLBACK_MODEL,
  modelById,
  recordingAngleRange,
  speakingModel,
} from '../../../core/localisation';
import type { MicArray, SessionTechnique } from '../../../core/session';
import { angleText, formatNumber, lengthText, speedOfSound } from '../../../core/units';
import { PatternField } from '../../parts/array-fields';
import { ChoiceField, Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, lengthKind, levelKind } from '../../parts/quantity-kinds';
import { TECHNIQUE_WORDS } from '../../parts/technique-text';
import { changeTechnique, pairNumber, setTechnique } from '../../document/edits';
import { edit } from '../../document/session-store';
import { useSession } from '../../document/use-session';

type Choosable = keyof typeof STARTING_TECHNIQUES;
type Of<Kind extends SessionTechnique['kind']> = Extract<SessionTechnique, { kind: Kind }>;

const CHOICES = Object.keys(STARTING_TECHNIQUES) as Choosable[];
const SINGLE: TechniqueName = 'single';

/** One microphone in the place of several, of the pattern that they have. */
const singleOf = (technique: SessionTechnique): SessionTechnique => ({
  kind: 'single',
  pattern:
    technique.kind === 'mid-side'
      ? technique.midPattern
      : technique.kind === 'custom'
        ? (technique.capsules[0]?.pattern ?? 'omni')
        : technique.pattern,
});

export function TechniqueChoice({ array }: { array: MicArray }) {
  const name = techniqueName(array.technique);
  const known = CHOICES.some((choice) => choice === name);
  const options: { value: TechniqueName; label: string }[] = CHOICES.map((choice) => ({
    value: choice,
    label: TECHNIQUE_WORDS[choice],
  }));
  options.push({ value: SINGLE, label: TECHNIQUE_WORDS[SINGLE] });
  if (!known && name !== SINGLE) options.push({ value: name, label: TECHNIQUE_WORDS[name] });
  return (
    <ChoiceField
      label="Technique"
      value={name}
      options={options}
      onChange={(chosen) => {
        const choice = CHOICES.find((entry) => entry === chosen);
        if (chosen === SINGLE && name !== SINGLE) setTechnique(array, singleOf(array.technique));
        else if (choice && choice !== name)
          setTechnique(array, STARTING_TECHNIQUES[choice] as SessionTechnique);
      }}
    />
  );
}

/** "NOS, altered: 15.0 cm instead of 30.0 cm. Recording angle ±66.1° instead of ±40.3°." */
function useAlteration(array: MicArray): { spacing: string | null; angle: string | null } {
  const { settings, venue } = useSession();
  const { units } = settings;
  const model = speakingModel(settings, false);
  const speed = speedOfSound(venue.temperatureC);
  return useMemo(() => {
    const { technique } = array;
    const standard = standardSetUp(array);
    const altered = standard && alterationOf(array, standard, model, speed);
    if (!altered || technique.kind !== 'pair') return { spacing: null, angle: null };
    const half = (deg: number | null) => (deg === null ? 'never reached' : `±${angleText(deg)}`);
    const effect = `Recording angle ${half(altered.halfDeg)} instead of ${half(altered.standardHalfDeg)}.`;
    const said = (what: string, now: string, then: string) =>
      altered.in.includes(what)
        ? `${standard.name}, altered: ${now} instead of ${then}. ${effect}`
        : null;
    const length = (metres: number) => lengthText(metres, units, 'bar');
    return {
      spacing: said('spacing', length(technique.spacingM), length(standard.spacingM)),
      angle: said(
        'included angle',
        angleText(technique.includedAngleDeg),
        angleText(standard.includedAngleDeg),
      ),
    };
  }, [array, units, model, speed]);
}

/** What a pair could be while one of its numbers is missing: a question, and the range. */
function useMissing({ pattern, spacingM, includedAngleDeg }: Of<'pair'>) {
  const { settings, venue } = useSession();
  const { units, model } = settings;
  return (what: 'spacing' | 'angle'): string => {
    const [spacing, angle] = what === 'spacing' ? [null, includedAngleDeg] : [spacingM, null];
    const { over, ranges } = recordingAngleRange(
      pattern,
      spacing,
      angle,
      speedOfSound(venue.temperatureC),
    );
    const speaking = model !== 'own' && ranges[model] ? model : FALLBACK_MODEL;
    const range = ranges[speaking];
    const values = 'spacingM' in over ? over.spacingM : over.includedAngleDeg;
    const text = (value: number | undefined) =>
      'spacingM' in over ? lengthText(value, units, 'bar') : angleText(value);
    const tried = `${text(values[0])} to ${text(values[values.length - 1])}`;
    const most = range?.maxHalfDeg ?? null;
    const far = most === null ? 'never reached' : `±${angleText(most)}`;
    const question = what === 'spacing' ? 'how far apart?' : 'at which angle?';
    return `${question} Over the customary ${tried} the recording angle is ±${angleText(range?.minHalfDeg)} to ${far} (${modelById(speaking).name}, distant sources).`;
  };
}

function PairFields({ array, technique }: { array: MicArray; technique: Of<'pair'> }) {
  const { units } = useSession().settings;
  const key = (name: string) => fieldKey('array', array.id, name);
  const altered = useAlteration(array);
  const missing = useMissing(technique);
  const same = technique.spacingM === 0 && technique.includedAngleDeg % 360 === 0;
  return (
    <>
      <PatternField
        label="Pattern, both"
        fieldKey={key('pattern')}
        value={technique.pattern}
        onChange={(pattern) => edit(changeTechnique(array.id, 'pair', { pattern }))}
      />
      <QuantityField
        label="Spacing"
        fieldKey={key('spacingM')}
        kind={lengthKind('spacingM', units, 'bar')}
        value={array.missing.includes('spacingM') ? null : technique.spacingM}
        optional
        onCommit={(spacingM) => edit(pairNumber(array.id, 'spacingM', spacingM))}
        remark={
          array.missing.includes('spacingM')
            ? missing('spacing')
            : same
              ? 'Both capsules at one point and one direction give the same signal twice: allowed is a spacing or an included angle above 0.'
              : altered.spacing
        }
      />
      <QuantityField
        label="Included angle"
        fieldKey={key('includedAngleDeg')}
        kind={angleKind('includedAngleDeg')}
        value={array.missing.includes('includedAngleDeg') ? null : technique.includedAngleDeg}
        optional
        onCommit={(angleDeg) => edit(pairNumber(array.id, 'includedAngleDeg', angleDeg))}
        remark={
          array.missing.includes('includedAngleDeg')
            ? missing('angle')
            : altered.spacing === null
              ? altered.angle
              : null
        }
      />
    </>
  );
}

function MidSideFields({ array, technique }: { array: MicArray; technique: Of<'mid-side'> }) {
  const crossed = crossedEquivalent(patternAOf(technique.midPattern), technique.sideGainDb);
  return (
    <>
      <PatternField
        label="Mid pattern"
        fieldKey={fieldKey('array', array.id, 'midPattern')}
        value={technique.midPattern}
        onChange={(midPattern) => edit(changeTechnique(array.id, 'mid-side', { midPattern }))}
      />
      <QuantityField
        label="Side level against mid"
        fieldKey={fieldKey('array', array.id, 'sideGainDb')}
        kind={levelKind('gainDb')}
        value={technique.sideGainDb}
        onCommit={(sideGainDb) =>
          sideGainDb !== null && edit(changeTechnique(array.id, 'mid-side', { sideGainDb }))
        }
      />
      <ChoiceField
        label="Side’s positive lobe faces"
        value={technique.sidePositive}
        options={[
          { value: 'left', label: 'left' },
          { value: 'right', label: 'right: swaps the image' },
        ]}
        onChange={(sidePositive) => edit(changeTechnique(array.id, 'mid-side', { sidePositive }))}
      />
      <h3 className="pt-4 pb-1 text-[14px]">The same as a crossed pair</h3>
      <Readout label="Pattern A" number={formatNumber(crossed.patternA, 3)} />
      <Readout label="Included angle" number={angleText(crossed.includedAngleDeg)} />
      <p className="text-muted py-2 text-[12.5px]">
        Decoded as L = M + S, R = M − S. At the desk: the side on two channels, the second with
        inverted polarity, panned hard left and right, faders linked.
      </p>
    </>
  );
}

export function TechniqueFields({ array }: { array: MicArray }) {
  const { technique } = array;
  switch (technique.kind) {
    case 'pair':
      return <PairFields array={array} technique={technique} />;
    case 'mid-side':
      return <MidSideFields array={array} technique={technique} />;
    case 'single':
      return (
        <PatternField
          label="Pattern"
          fieldKey={fieldKey('array', array.id, 'pattern')}
          value={technique.pattern}
          onChange={(pattern) => edit(changeTechnique(array.id, 'single', { pattern }))}
        />
      );
    case 'custom':
      return (
        <p className="text-muted py-2">
          {technique.capsules.length} microphones, each with a place, pattern and route of its own:
          they stand on the page Trees and surround.
        </p>
      );
  }
}
