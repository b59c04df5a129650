import { RULES } from './engine';
import { EVERY_ROLE, type Rule } from './finding';

const BASIS_WORDS: Readonly<Record<Rule['basis'], string>> = {
  physics: 'physics',
  rule: 'rule',
  safety: 'safety',
  preference: 'preference, can be switched off',
};

const mark = (on: boolean): string => (on ? '●' : '');
const row = (cells: readonly string[]): string => `| ${cells.join(' | ')} |`;

/** The rules as a document: what is found, for which roles, how grave it is and why. */
export function checksTable(): string {
  const head = ['check', ...EVERY_ROLE, 'severity', 'stands on', 'why'];
  const rows = RULES.map((rule) => [
    `\`${rule.code}\``,
    ...EVERY_ROLE.map((role) => mark(rule.of === 'array' && rule.roles.includes(role))),
    rule.severities.join(', '),
    BASIS_WORDS[rule.basis],
    rule.reason.replaceAll('|', '\\|'),
  ]);
  const session = RULES.filter(({ of }) => of === 'session').length;
  return `# Checks

Written from the rules themselves by \`npm run schema\`. ${RULES.length} rules: ${RULES.length - session} look at
every array in use whose role is marked, over the players that it is for; ${session} look at the session as a
whole, and have no role marked. Which array is shown changes nothing. Several places of one cause are one
finding. A preference can be switched off for a session, physics, rules and safety cannot.

${row(head)}
${row(head.map(() => '---'))}
${rows.map(row).join('\n')}
`;
}
