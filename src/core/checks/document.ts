import { weights, weightWords } from './finding';
import { rules } from './rules';

/** docs/checks.md, made from the rules. */
export function rulesDocument(): string {
  const head =
    '# What the checks look for\n\nMade from the rules (`core/checks/rules/`) by `bin/stall check --rules`; a test holds it. Pages are judged as they are written.\n';
  const parts = weights.map((w) => {
    const own = rules.filter((r) => r.weight === w);
    if (own.length === 0) return '';
    const rows = own.map(
      (r) => `| \`${r.name}\` | ${r.about.replace(/\|/g, '\\|')} | ${r.reads.join(', ')} |`,
    );
    return `\n## ${weightWords[w]}\n\n| rule | what it looks for | reads |\n|---|---|---|\n${rows.join('\n')}\n`;
  });
  return head + parts.join('');
}
