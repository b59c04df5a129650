import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { csvText, plainCell } from './csv';

const FORMULAS = ['=1+1', '+49 30', '-cmd', '@SUM(A1)', '\t=1', '\r=1', '\n=1', '=1\n+2'];

describe('a table as CSV', () => {
  it('holds no text that a spreadsheet would run', () => {
    const text = csvText(
      ['=head'],
      FORMULAS.map((cell) => [cell]),
    );
    const rows = Papa.parse<string[]>(text, { newline: '\r\n' }).data.flat();
    expect(rows).toHaveLength(FORMULAS.length + 1);
    for (const cell of rows) expect(cell).toMatch(/^'/);
  });

  it('leaves numbers numbers and everything else as it is', () => {
    expect(csvText(['x', 'name', 'gap'], [[-0.5, '−0.5 m, "quoted"', null]])).toBe(
      'x,name,gap\r\n-0.5,"−0.5 m, ""quoted""",',
    );
  });

  it('can be read back', () => {
    for (const cell of [...FORMULAS, 'plain', "'quoted'", '']) {
      const [, row] = Papa.parse<string[]>(csvText(['a', 'b'], [[cell, 'end']]), {
        newline: '\r\n',
      }).data;
      expect(plainCell(row?.[0] ?? '')).toBe(cell);
    }
  });
});
