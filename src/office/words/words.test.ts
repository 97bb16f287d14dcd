import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import * as account from './account';
import * as bench from './bench';
import * as onboarding from './onboarding';
import * as checks from './checks';
import * as find from './find';
import * as frame from './frame';
import * as goods from './goods';
import * as look from './look';
import * as orders from './orders';
import * as site from './site';
import * as slip from './slip';
import * as till from './till';

/** Attributes that people read or hear. */
const READ = new Set(
  'label title aria-label placeholder hint note says alt after legend what text lead empty'.split(' '),
);
const letters = (text: string): boolean => /\p{L}{2}/u.test(text);
/** Keys of keyboards and formats of dates are no words. */
const CODE =
  /^(Enter|Escape|Delete|Backspace|Home|End|Tab|Space|Ctrl|Alt|Digit|Shift|Arrow\w+|Page\w+|F\d+|((Ctrl|Alt|Shift|Control)\+)+.*|EEE d MMM.*|a view of the office .*|(POST|PUT|DELETE|GET|PATCH))$|^[./#?&[]|^[a-z]+:\/\/|^data:/;
/** A sentence, or at least a capital and small letters: what no identifier looks like. */
const isProse = (text: string): boolean =>
  letters(text) &&
  !CODE.test(text.trim()) &&
  (/^[A-Z\u201c][^A-Z]*[a-z]/.test(text)
    ? !/^[A-Z][a-zA-Z]+[A-Z]/.test(text)
    : /[a-z]{2,} [a-z]{2,} [a-z]{2,}|[a-z]{2,}[.!?]( |$)/i.test(text) && /\s/.test(text.trim()));

/** What is said in a file of the office in place of the catalogue. */
function saidIn(code: string, name: string): string[] {
  const file = ts.createSourceFile(name, code, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    const text = saidBy(node);
    if (text !== undefined) found.push(text);
    if (!isSilent(node)) ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

/** Attributes that nobody reads, whatever stands in them. */
const UNREAD = new Set(['className', 'style', 'src', 'href', 'key']);

/** Nothing in it is said to anybody; a plain attribute has said what it says. */
function isSilent(node: ts.Node): boolean {
  if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isInterfaceDeclaration(node)) return true;
  if (!ts.isJsxAttribute(node)) return false;
  const isPlain = node.initializer !== undefined && ts.isStringLiteral(node.initializer);
  return isPlain || UNREAD.has(node.name.getText());
}

/** What this node says by itself. */
function saidBy(node: ts.Node): string | undefined {
  if (ts.isJsxText(node)) return letters(node.text) ? node.text.trim() : undefined;
  if (ts.isJsxAttribute(node)) return saidByAttribute(node);
  if (ts.isStringLiteralLike(node)) return isProse(node.text) && !isNamed(node) ? node.text : undefined;
  if (!ts.isTemplateExpression(node)) return undefined;
  const text = [node.head.text, ...node.templateSpans.map((s) => s.literal.text)].join(' x ');
  return isProse(text) ? text : undefined;
}

function saidByAttribute({ name, initializer }: ts.JsxAttribute): string | undefined {
  const value = initializer && ts.isStringLiteral(initializer) ? initializer.text : '';
  return READ.has(name.getText()) && letters(value) ? value : undefined;
}

/** A value of a table, or one that something is compared with: a name, not a text. */
const isNamed = (node: ts.Node): boolean =>
  ts.isPropertyAssignment(node.parent) ||
  (ts.isBinaryExpression(node.parent) && node.parent.operatorToken.getText().endsWith('=='));

const officeFiles = readdirSync('src/office', { recursive: true, encoding: 'utf8' }).filter(
  (f) => /\.tsx?$/.test(f) && !/\.test\.tsx?$|testing\.tsx$|^(words|in-page)\//.test(f),
);

describe('what the office says', () => {
  it('stands in the catalogue, and nowhere else', () => {
    const outside = officeFiles.flatMap((f) =>
      saidIn(readFileSync(join('src/office', f), 'utf8'), f).map((text) => `${f}: ${text}`),
    );
    expect(outside).toEqual([]);
  });

  it('would be found wherever it is written', () => {
    const found = (code: string) => saidIn(`const x = ${code};`, 'x.tsx');
    expect(found('<p>Add a rate</p>')).toEqual(['Add a rate']);
    expect(found('<input placeholder="none" />')).toEqual(['none']);
    expect(found("<b>{on ? 'Switched on' : 'Switched off'}</b>")).toEqual(['Switched on', 'Switched off']);
    expect(found("toast.error('That did not work.')")).toEqual(['That did not work.']);
    expect(found(`toast.error(\`\${n} files were read\`)`)).toHaveLength(1);
    expect(found('<p className="a b c">{say.addARate}</p>')).toEqual([]);
  });

  it('is said somewhere: nothing in the catalogue is left over', () => {
    const code = officeFiles.map((f) => readFileSync(join('src/office', f), 'utf8')).join('\n');
    const places = { account, bench, checks, onboarding, find, frame, goods, look, orders, site, slip, till };
    const left = Object.entries(places).flatMap(([place, views]) =>
      Object.entries(views).flatMap(([view, texts]) =>
        // A table that is looked up by a name from elsewhere: the compiler holds its keys.
        new RegExp(`\\b${view}\\[`).test(code)
          ? []
          : Object.keys(texts)
              .filter((key) => !new RegExp(`\\bsay\\.${key}\\b`).test(code))
              .map((key) => `${place}.${view}.${key}`),
      ),
    );
    expect(left).toEqual([]);
  });

  it('uses the words of the trade, and no riddles', () => {
    const texts = [
      'bench',
      'onboarding',
      'find',
      'frame',
      'goods',
      'orders',
      'site',
      'slip',
      'till',
      'ui',
    ].map((place) => readFileSync(`src/office/words/${place}.ts`, 'utf8'));
    // Each stands for a word that people know: refund, remove, shipping method, not counted, reset, export.
    const riddles =
      /[`'](Give back.*|Given back|Money back|Take .* (away|out)|A way|A rate|A band|All again|Which|To the work|The sum|Nobody counts these|Back to what is saved|Write .*)[`']/g;
    expect(texts.flatMap((t) => t.match(riddles) ?? [])).toEqual([]);
  });
});
