import { rigTables, safetyCautions, DEFERENCE, type RigTable } from '../core/rig';
import { parseArgs } from 'node:util';
import { writeSessionText } from '../core/session';
import { withSessionInside } from '../paper/attached-session';
import { Checker } from './checker';
import { csvText } from '../paper/csv';
import { sheetModel } from '../paper/sheet-model';
import { sheetPdf } from '../paper/sheet-pdf';
import { fonts } from './fonts';
import { failed, succeeded, Usage, type CommandResult } from './result';
import { loadSession, type Machine } from './session-file';

const NAMES: readonly RigTable['name'][] = [
  'positions',
  'channels',
  'pack',
  'build',
  'cables',
  'as-built',
];

interface Given {
  file: string;
  csv: boolean;
  pdf: boolean;
  table: string | undefined;
}

function read(args: readonly string[]): Given {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      options: { csv: { type: 'boolean' }, pdf: { type: 'boolean' }, table: { type: 'string' } },
      allowPositionals: true,
      strict: true,
    });
    const [file, more] = positionals;
    if (file === undefined || more !== undefined) throw new Usage('rig takes one FILE');
    return { file, csv: values.csv ?? false, pdf: values.pdf ?? false, table: values.table };
  } catch (error) {
    throw error instanceof Usage
      ? error
      : new Usage(error instanceof Error ? error.message : String(error));
  }
}

const csvOf = ({ head, rows }: RigTable): string => csvText(head, rows);

/** `rig FILE [--csv | --pdf] [--table NAME]`: what to rig, as JSON, CSV or PDF. */
export async function rigCommand(
  args: readonly string[],
  machine: Machine,
): Promise<CommandResult> {
  const { file, csv, pdf, table } = read(args);
  if (csv && pdf) throw new Usage('rig gives either --csv or --pdf');
  const check = new Checker();
  const wanted = table === undefined ? null : check.oneOf('table', table, NAMES);
  if (check.errors.length > 0) return failed(check.errors);
  const loaded = await loadSession(file, machine);
  if ('errors' in loaded) return failed(loaded.errors);
  if (pdf) {
    const { session } = loaded;
    return {
      status: 0,
      out: '',
      bytes: await withSessionInside(
        sheetPdf(session, sheetModel(session, false), fonts()),
        writeSessionText(session),
      ),
      errors: [],
    };
  }
  const tables = rigTables(loaded.session, wanted === 'cables').filter(
    ({ name }) => wanted === null || name === wanted,
  );
  if (csv) {
    const [first] = tables;
    const out = wanted
      ? first
        ? csvOf(first)
        : ''
      : tables.map((entry) => `# ${entry.name}\r\n${csvOf(entry)}`).join('\r\n\r\n');
    return { status: 0, out, errors: [] };
  }
  return succeeded({
    tables: Object.fromEntries(
      tables.map(({ name, head, rows }) => [
        name,
        rows.map((row) => Object.fromEntries(head.map((key, i) => [key, row[i] ?? null]))),
      ]),
    ),
    cautions: [...safetyCautions(loaded.session), { code: 'deference', what: DEFERENCE, todo: '' }],
  });
}
