import { findShortcodes } from '../../core/placement/find-shortcodes';
import { attr, descendants } from '../../core/html/tree';
import type { PagePath } from '../../core/site/paths';
import { type ParsedPage, parsePageFile } from '../../core/site/read-page';
import type { Ctx } from '../context';
import { unreachable } from '../errors';
import type { Site } from './site';
import { visit } from './visit';

export interface Question {
  readonly url: string;
  readonly placement: string;
  readonly kind: string;
  readonly spelling: string;
}

/**
 * Whether a widget that was handed out stands on a page, as its visitors get it: the page is fetched, parsed, and looked
 * through for the placement in the spelling it was handed out in, and for the script where that needs one.
 */
export async function hasArrived(
  ctx: Ctx,
  site: Site,
  asked: Question,
): Promise<{ found: boolean; says: string }> {
  const page = await fetchPage(asked.url);
  const shop = `${ctx.addresses.shop}/${site.row.slug}`;
  const script = [...descendants(page.doc)].some(
    (e) => e.tagName === 'script' && (attr(e, 'src') ?? '').startsWith(`${ctx.addresses.shop}/stall.js`),
  );
  if (asked.spelling === 'shortcode') {
    const code = findShortcodes(page).find((c) => c.placementId === asked.placement || c.kind === asked.kind);
    if (!code)
      return {
        found: false,
        says: 'The shortcode is not in the text of that page. Was it saved, and published there?',
      };
    if (code.problem)
      return { found: false, says: `The shortcode is there, in line ${code.line}, but: ${code.problem}` };
    return script
      ? { found: true, says: `It has arrived, in line ${code.line}, and so has the script.` }
      : {
          found: false,
          says: `The shortcode is there, in line ${code.line}, but the script is not: visitors read it as text. Paste the script too.`,
        };
  }
  const stands = [...descendants(page.doc)].find((e) => isIt(e, asked, shop));
  const text = asText(page, asked);
  if (!stands && text !== undefined)
    return {
      found: false,
      says: `The code stands there as text, in line ${text}: the editor took it for words, and visitors read it. Paste it where the editor takes HTML (a code block, or its source view), or use the shortcode, which works as text.`,
    };
  if (!stands)
    return {
      found: false,
      says:
        asked.spelling === 'ssi' || asked.spelling === 'esi'
          ? 'What the include brings is not on that page. Does the server assemble it, and reach the shop?'
          : 'It is not on that page. Was it saved, and published there? Some editors take such elements out: use the frame or the shortcode then.',
    };
  const line = stands.sourceCodeLocation?.startLine ?? 1;
  if (asked.spelling === 'element' && !script)
    return {
      found: false,
      says: `It is there, in line ${line}, but the script is not: visitors see a plain link. Paste the script too.`,
    };
  return {
    found: true,
    says: `It has arrived, in line ${line}${asked.spelling === 'element' ? ', and so has the script' : ''}.`,
  };
}

function isIt(e: Parameters<typeof attr>[0], { spelling, placement, kind }: Question, shop: string): boolean {
  if (spelling === 'element')
    return (
      e.tagName === `stall-${kind}` &&
      (attr(e, 'placement') === placement || attr(e, 'placement') === undefined)
    );
  const href = attr(e, 'src') ?? attr(e, 'href') ?? '';
  if (spelling === 'frame') return e.tagName === 'iframe' && href.startsWith(`${shop}/frame/${kind}`);
  if (spelling === 'link') return e.tagName === 'a' && (href.startsWith(shop) || href.includes(placement));
  return attr(e, 'data-stall-fragment') === kind;
}

async function fetchPage(url: string): Promise<ParsedPage> {
  const parsed = parsePageFile('page.html' as PagePath, await visit(url));
  if ('problem' in parsed) throw unreachable(parsed.problem);
  return parsed.page;
}

/** Code that an editor took for text: visitors read it. */
function asText(page: ParsedPage, { kind }: Question): number | undefined {
  const { structure } = page.source;
  const at = structure.search(
    new RegExp(`&(?:lt|#0*60|#x0*3c);(?:stall-${kind}|iframe[^&]{0,200}/frame/${kind})`, 'i'),
  );
  return at < 0 ? undefined : structure.slice(0, at).split('\n').length;
}
