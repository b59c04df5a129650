import { lazy, Suspense } from 'react';
import { fieldKey } from '../view/validity';
import { modelOf, modelsIn } from '../../core/localisation';
import { ChoiceField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { percentKind, signedPercentKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

const ListenerTable = lazy(() =>
  import('../image-line/your-places').then((m) => ({ default: m.ListenerTable })),
);

const NOT_SAID = { value: 'not-said', label: 'not said' } as const;

/** The wanted picture as a whole. */
export function Taste() {
  const { brief, settings } = useSession();
  const { intent } = brief;
  return (
    <section aria-labelledby="taste-heading">
      <h2 id="taste-heading" className="pb-2 text-[17px]">
        The taste
      </h2>
      <ChoiceField
        label="Model that leads"
        value={settings.model}
        options={modelsIn(settings).map(({ id, name, authors }) => ({
          value: id,
          label: `${name} (${authors})`,
        }))}
        onChange={(model) => edit((draft) => void (draft.settings.model = model))}
      />
      <p className="text-muted py-1 text-[12.5px]">{modelOf(settings).holds}</p>
      <Suspense>
        <ListenerTable />
      </Suspense>
      <QuantityField
        label="Wanted width of the picture"
        fieldKey={fieldKey('intent', '', 'imageWidthPct')}
        kind={percentKind}
        value={intent.imageWidthPct}
        optional
        onCommit={(value) => edit((draft) => void (draft.brief.intent.imageWidthPct = value))}
      />
      <ChoiceField
        label="Room in the picture"
        value={intent.room ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'close', label: 'close' },
          { value: 'balanced', label: 'balanced' },
          { value: 'roomy', label: 'roomy' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.room = value === 'not-said' ? null : value))
        }
      />
      <ChoiceField
        label="The music is"
        value={intent.density ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'sparse', label: 'sparse: few sound at once' },
          { value: 'dense', label: 'dense: many sound at once' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.density = value === 'not-said' ? null : value))
        }
      />
      <ChoiceField
        label="Mono"
        value={intent.mono ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'must-survive', label: 'must survive' },
          { value: 'should-survive', label: 'should survive' },
          { value: 'may-be-lost', label: 'may lose some' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.mono = value === 'not-said' ? null : value))
        }
      />
      <QuantityField
        label="Taste: sharp (−100) to spacious (100)"
        fieldKey={fieldKey('intent', '', 'tastePct')}
        kind={signedPercentKind}
        value={intent.tastePct}
        onCommit={(value) =>
          edit((draft) => void (draft.brief.intent.tastePct = value ?? draft.brief.intent.tastePct))
        }
      />
      <ChoiceField
        label="Practice"
        value={intent.practice ?? 'not-said'}
        options={[
          NOT_SAID,
          { value: 'level-first', label: 'level first: coincident ways' },
          { value: 'time-first', label: 'time first: spaced ways' },
          { value: 'both', label: 'both: near-coincident ways' },
        ]}
        onChange={(value) =>
          edit((draft) => void (draft.brief.intent.practice = value === 'not-said' ? null : value))
        }
      />
      <ChoiceField
        label="Perspective"
        value={settings.perspective}
        options={[
          { value: 'audience', label: 'audience’s left and right' },
          { value: 'performer', label: 'performer’s left and right' },
        ]}
        onChange={(value) => edit((draft) => void (draft.settings.perspective = value))}
      />
    </section>
  );
}
