import { describe, expect, it } from 'vitest';
import { starterKit } from '../../core/kit';
import { kitFromCsv, kitToCsv } from './kit-csv';

const ids = () => {
  let next = 0;
  return () => `n${(next += 1)}`;
};
const HEAD = 'name,kind,patterns,count,matched,sensitivity mV/Pa,maximum dB SPL,phantom\n';

describe('the microphone list as CSV', () => {
  it('goes out and comes back the same', () => {
    const { microphones } = starterKit();
    const { good, bad } = kitFromCsv(kitToCsv(microphones), ids());
    expect(bad).toEqual([]);
    expect(good.map(({ id: _id, ...rest }) => rest)).toEqual(
      microphones.map(({ id: _id, ...rest }) => rest),
    );
  });

  it('reports a bad line by its number and keeps the others', () => {
    const { good, bad } = kitFromCsv(
      `${HEAD}"Pair, small",small condenser,cardioid,2,yes,12,136,needs\n` +
        `Odd,ribbon,heart,1,no,2,140,must not\n` +
        `Loud,dynamic,cardioid / 0.42,many,no,1.5,,tolerates\n` +
        `Plain,,omni,1,,,,\n`,
      ids(),
    );
    expect(good.map(({ name }) => name)).toEqual(['Pair, small', 'Plain']);
    expect(good[1]).toMatchObject({ sensitivityMvPa: null, matched: false, phantom: 'needs' });
    expect(bad[0]?.line).toBe(3);
    expect(bad[0]?.message).toMatch(/^patterns: "heart"; allowed: omni/);
    expect(bad[1]).toEqual({
      line: 4,
      message: 'count: "many"; allowed: a number from 1 to 256 channels',
    });
  });

  it('says which columns a file lacks', () => {
    const [bad] = kitFromCsv('a,b\n1,2\n', ids()).bad;
    expect(bad?.line).toBe(1);
    expect(bad?.message).toMatch(/^no column name, patterns; allowed: a heading with name/);
  });
});
