import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/**
 * How each thing that grows is added, as docs/architecture.md tells it: the files that are new, and the lines put into others. The
 * test beside this one adds all of them to a copy of the sources, and asks the compiler.
 */
export interface Recipe {
  readonly what: string;
  /** New files, by their path below src/: what stands in them, or the file they are made from, and how. */
  readonly files: Readonly<Record<string, string | MadeFrom>>;
  /** Files that get lines: what stands there, and what stands there afterwards. */
  readonly edits: readonly { readonly file: string; readonly from: string; readonly to: string }[];
  /** What a careless author leaves out of it, and the file that the compiler then complains about. */
  readonly forgets: { readonly in: string; readonly text: string; readonly instead?: string };
}

interface MadeFrom {
  readonly file: string;
  readonly turned: (text: string) => string;
}

/** Files that a recipe touches. */
export const touched = (r: Recipe): string[] => [
  ...new Set([...Object.keys(r.files), ...r.edits.map((e) => e.file)]),
];

/** Applies recipes to a copy of the sources. @throws where a line is not there that a recipe goes by. */
export function apply(dir: string, recipes: readonly Recipe[]): void {
  for (const { files, edits } of recipes) {
    for (const [file, made] of Object.entries(files))
      put(dir, file, typeof made === 'string' ? made : made.turned(read(dir, made.file)));
    for (const { file, from, to } of edits) put(dir, file, replaced(file, read(dir, file), from, to));
  }
}

/** Leaves out of each recipe what a careless author forgets. */
export function forget(dir: string, recipes: readonly Recipe[]): void {
  for (const { forgets } of recipes)
    put(dir, forgets.in, replaced(forgets.in, read(dir, forgets.in), forgets.text, forgets.instead ?? ''));
}

function put(dir: string, file: string, text: string): void {
  mkdirSync(dirname(join(dir, 'src', file)), { recursive: true });
  writeFileSync(join(dir, 'src', file), text);
}

const read = (dir: string, file: string): string => readFileSync(join(dir, 'src', file), 'utf8');

function replaced(file: string, text: string, from: string, to: string): string {
  if (text.split(from).length !== 2) throw new Error(`${file} does not have this once: ${from}`);
  return text.replace(from, () => to);
}

const hours = `import { z } from 'zod';
import { html } from '../../storefront/html';
import { defineKind } from '../kind';
import { lang, langField } from './common';

const settings = z.object({ text: z.string().trim().max(80).default(''), lang });

export const hours = defineKind<z.infer<typeof settings>>({
  kind: 'hours',
  name: 'Opening hours',
  hint: 'When somebody is there.',
  sign: '<circle cx="6" cy="6" r="5" fill="currentColor"/>',
  drawing: '<circle cx="26" cy="19" r="14" class="s"/>',
  script: 'more',
  settings,
  fields: [{ key: 'text', label: 'What it says', as: 'text' }, langField],
  usualPlace: 'footer',
  usualReach: 'every',
  frameHeight: 60,
  link: (_, { shopUrl }) => ({ href: shopUrl, text: 'Opening hours' }),
  draw: async (s, { w }) => html\`<p>\${s.text || w.cart}</p>\`,
  describe: (s) => \`Opening hours: \${s.text}\`,
});
`;

const courier = `import type { DeliveryKind } from './delivery';

export const courier: DeliveryKind<{ readonly address: string }> = {
  deliver: async () => {},
  hashThere: () => undefined,
  byHand: false,
};
`;

const letterbox = `import type { ConnectionKind } from './connection';

export const letterbox: ConnectionKind<{ readonly slot: string }, { readonly slot: string }> = {
  remembered: ({ slot }) => ({ slot }),
  read: async () => ({ notes: [] }),
  arranged: (kept) => kept,
  refusal: () => undefined,
  delivery: () => undefined,
  forHost: async () => ({ type: 'application/json', body: new Uint8Array() }),
  again: (known) => known,
  handIn: '',
};
`;

const frost = `import { onPage, type Rule } from '../../rule';

export const frostWarning: Rule = {
  name: 'frost-warning',
  about: 'A page that speaks of frost.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      if (/frost/.test(p.name)) yield { about: p.path, place: onPage(p), title: 'Frost', meets: 'They feel cold.' };
  },
};
`;

/** Another language says the same: its texts are the German ones here, which the compiler cannot tell. */
const languageFiles = (code: string): Record<string, MadeFrom> =>
  Object.fromEntries(
    ['shop', 'letters', 'papers', 'index'].map((name) => [
      `core/languages/${code}/${name}.ts`,
      {
        file: `core/languages/de/${name}.ts`,
        turned: (text) => text.replaceAll("'de'", `'${code}'`).replace('const de:', `const ${code}:`),
      },
    ]),
  );

const letterText = "{ subject: 'It rained', text: 'Dear {buyer}, it rained on order {number}. {shop}' }";

export const recipes: readonly Recipe[] = [
  {
    what: 'a widget kind',
    files: { 'core/placement/kinds/hours.ts': hours },
    edits: [
      {
        file: 'core/placement/kinds/index.ts',
        from: "import { notice } from './notice';\n",
        to: "import { hours } from './hours';\nimport { notice } from './notice';\n",
      },
      { file: 'core/placement/kinds/index.ts', from: '  notice,\n', to: '  notice,\n  hours,\n' },
    ],
    forgets: {
      in: 'core/placement/kinds/hours.ts',
      text: '  sign: \'<circle cx="6" cy="6" r="5" fill="currentColor"/>\',\n',
    },
  },
  {
    what: 'a spelling',
    files: {},
    edits: [
      {
        file: 'core/placement/spelling.ts',
        from: '  link: {\n',
        to: "  marker: {\n    name: 'Marker',\n    short: 'marker',\n    hint: 'For programs that put widgets in by themselves.',\n    needsScript: false,\n    write: (w) => ['<!--', w.kind, '-->'].join(''),\n  },\n  link: {\n",
      },
    ],
    forgets: {
      in: 'core/placement/spelling.ts',
      text: "    hint: 'For programs that put widgets in by themselves.',\n",
    },
  },
  {
    what: 'a way to pay, through a provider',
    files: {},
    edits: [
      {
        file: 'core/till/pay-kinds.ts',
        from: '  transfer: {\n',
        to: "  direct: {\n    settings: 'DIRECT',\n    name: 'payTransfer',\n    beneath: 'byWallet',\n    owner: { name: 'Direct', atSetUp: 'Direct', ofOrder: 'direct', hint: 'From account to account.' },\n  },\n  transfer: {\n",
      },
    ],
    forgets: {
      in: 'core/till/pay-kinds.ts',
      text: "    beneath: 'byWallet',\n    owner: { name: 'Direct'",
      instead: "    owner: { name: 'Direct'",
    },
  },
  {
    what: 'a shipping measure',
    files: {},
    edits: [
      {
        file: 'core/till/measures.ts',
        from: '  pieces: {\n',
        to: "  lines: {\n    name: 'by lines',\n    asked: 'number',\n    of: (sent) => sent.length,\n    text: (n) => String(n),\n    noun: 'lines',\n    step: 1,\n  },\n  pieces: {\n",
      },
    ],
    forgets: { in: 'core/till/measures.ts', text: "    noun: 'lines',\n" },
  },
  {
    what: 'a way of delivering',
    files: { 'services/sites/deliveries/courier.ts': courier },
    edits: [
      {
        file: 'services/sites/deliveries/index.ts',
        from: "import { download } from './download';\n",
        to: "import { courier } from './courier';\nimport { download } from './download';\n",
      },
      {
        file: 'services/sites/deliveries/index.ts',
        from: '{ folder, host, download, paste }',
        to: '{ folder, host, download, paste, courier }',
      },
    ],
    forgets: { in: 'services/sites/deliveries/courier.ts', text: '  hashThere: () => undefined,\n' },
  },
  {
    what: 'a connection',
    files: { 'services/sites/connections/letterbox.ts': letterbox },
    edits: [
      {
        file: 'services/sites/connections/index.ts',
        from: "import { folder } from './folder';\n",
        to: "import { folder } from './folder';\nimport { letterbox } from './letterbox';\n",
      },
      {
        file: 'services/sites/connections/index.ts',
        from: '{ zip, folder, live }',
        to: '{ zip, folder, live, letterbox }',
      },
    ],
    forgets: { in: 'services/sites/connections/letterbox.ts', text: '  refusal: () => undefined,\n' },
  },
  {
    what: 'a check',
    files: { 'core/checks/rules/goods/frost-warning.ts': frost },
    edits: [
      {
        file: 'core/checks/rules/index.ts',
        from: "import { wasPrice } from './goods/was-price';\n",
        to: "import { frostWarning } from './goods/frost-warning';\nimport { wasPrice } from './goods/was-price';\n",
      },
      { file: 'core/checks/rules/index.ts', from: '  wasPrice,\n', to: '  wasPrice,\n  frostWarning,\n' },
    ],
    forgets: { in: 'core/checks/rules/goods/frost-warning.ts', text: "  reads: ['pages'],\n" },
  },
  {
    what: 'a letter',
    files: {},
    edits: [
      {
        file: 'core/letters/kinds.ts',
        from: '  paid: {\n',
        to: "  rain: { name: 'Rain', when: 'when it rained', fields: [...always], usual: false, days: null },\n  paid: {\n",
      },
      ...['en', 'de', 'fr'].map((code) => ({
        file: `core/languages/${code}/letters.ts`,
        from: '  paid: {\n',
        to: `  rain: ${letterText},\n  paid: {\n`,
      })),
    ],
    forgets: { in: 'core/languages/fr/letters.ts', text: `  rain: ${letterText},\n` },
  },
  {
    what: 'a language',
    files: languageFiles('nl'),
    edits: [
      {
        file: 'core/languages/languages.ts',
        from: "import { fr } from './fr';\n",
        to: "import { fr } from './fr';\nimport { nl } from './nl';\n",
      },
      { file: 'core/languages/languages.ts', from: '{ en, de, fr }', to: '{ en, de, fr, nl }' },
    ],
    forgets: { in: 'core/languages/nl/papers.ts', text: "  invoice: 'Rechnung',\n" },
  },
];
