import { describe, expect, it } from 'vitest';
import { analyseSession, recommend } from './analysis';
import { rigTables } from './rig';
import { type Session } from './session';
import { everythingOf } from './test-everything';
import { PLANTED } from './fixtures/planted';
import { arched, crowded, turned } from './fixtures/set-ups';
import { told } from './fixtures/told';

/**
 * Two set-ups in which almost everything is a little wrong, and all that is said of them, word by
 * word and figure by figure. What changes here changes for a user: it is looked at, and frozen anew
 * with `vitest -u` when it is meant.
 */

describe('all that is said of a set-up', () => {
  it.each([crowded, turned, arched].map((session) => [session.id, session] as const))(
    '%s, word by word',
    async (id, session) => {
      await expect(told(everythingOf(session))).toMatchFileSnapshot(`fixtures/pinned-${id}.txt`);
    },
  );

  it('and of each planted fault, with the way out of it', async () => {
    const text = Object.entries(PLANTED).map(([code, { session }]) => {
      const { findings, arrays } = analyseSession(session);
      const said = findings.filter(({ code: of }) => of !== 'cables' && of !== 'phantom');
      const of = arrays.map(({ id, own, ensemble, balanceDb, stage }) => [
        id,
        own.length,
        ensemble,
        balanceDb,
        stage.traded,
      ]);
      return told({ [code]: [...said, ...of] });
    });
    await expect(text.join('\n')).toMatchFileSnapshot('fixtures/pinned-planted.txt');
  });

  it('in feet and inches, where mono must survive', async () => {
    const text = [crowded, arched].map((session) => {
      const imperial: Session = {
        ...session,
        settings: { ...session.settings, units: 'imperial', model: 'tangent' },
        brief: {
          ...session.brief,
          intent: { ...session.brief.intent, mono: 'must-survive', room: 'close' },
        },
      };
      const { findings } = analyseSession(imperial);
      return told({
        said: findings.map(({ code, message, figures }) => [code, message, figures]),
        sheet: rigTables(imperial).map(({ name, rows }) => [name, rows.length]),
      });
    });
    await expect(text.join('\n')).toMatchFileSnapshot('fixtures/pinned-imperial.txt');
  });

  it('is recommended, with its reasons', async () => {
    const without = { ...crowded, sources: crowded.sources.filter(({ id }) => id !== 'b2') };
    const text = [without, turned, arched].map((session) => {
      const { recommendations, ...rest } = recommend(session);
      return told({ rest, recommendations: recommendations.slice(0, 6) });
    });
    await expect(text.join('\n')).toMatchFileSnapshot('fixtures/pinned-recommended.txt');
  });
});
