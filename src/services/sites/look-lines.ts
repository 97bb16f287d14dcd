import { changeBetween, namesIn, partOf } from '../../core/change';
import { isSource, type SourceName } from '../../core/look/found/sources';
import {
  pairLabels,
  shapeLabels,
  shapeValueLabel,
  sourceLabels,
  tokenLabels,
  valueLabel,
} from '../../core/look/labels';
import { isPair } from '../../core/look/pairs';
import { type Decision, OWN_CSS } from '../../core/look/plan';
import { isShape } from '../../core/look/shape';
import { isToken, type TokenName, tokenNames, tokenOf } from '../../core/look/tokens';
import { type Dressed, dress } from '../../core/look/wardrobe';
import type { KeptLook, PublishedLook } from '../../data/schema/site';
import type { Ctx } from '../context';
import { dressedIn, wardrobeFor } from './look';
import type { Site } from './site';

/** A line of the slip about the look. */
export interface LookLine {
  /** The decision that is undone with it. */
  readonly name: string;
  readonly what: string;
}

/** What is worn differently because the site was read anew: one line, undone together. */
export const REREAD = 'reread';

/** What waits of the look: one line to each decision, and one for what the site's own reading brought. */
export async function lookLines(
  ctx: Ctx,
  site: Site,
  published: KeptLook | PublishedLook | null,
  draft: KeptLook | null,
): Promise<LookLine[]> {
  const [before, after] = [published?.decisions ?? {}, draft?.decisions ?? {}];
  const change = changeBetween<Decision>(before, after);
  const worn = await dressedIn(ctx, site, draft);
  const lines = namesIn(change).flatMap((name): LookLine[] => {
    const what = decisionWords(name, partOf(change, name).after, worn);
    return what ? [{ name, what }] : [];
  });
  return [...lines, ...(await rereadLine(ctx, site, published, draft))];
}

/** What a decision does, in words: "Button: #79491B". */
function decisionWords(name: string, value: Decision | undefined, worn: Dressed): string | undefined {
  const isThere = value !== undefined;
  const [kind, of = ''] = name.split(/:(.*)/s);
  if (name === OWN_CSS) return ownCssWords(worn.look.css);
  if (kind === 'tie' && isToken(of)) {
    const now = valueLabel(tokenOf(of).kind, worn.light.tokens[of].value);
    return `${tokenLabels[of]}: ${now}${isThere ? '' : ', as found'}`;
  }
  if (kind === 'as' && isPair(of))
    return isThere
      ? `${capital(pairLabels[of])}: as the site has it`
      : `${capital(pairLabels[of])}: made readable`;
  if (kind === 'shape' && isShape(of))
    return `${shapeLabels[of]}: ${shapeValueLabel(of, worn.look.shape[of] ?? '').toLowerCase()}`;
  if (kind === 'pin' && isSource(of)) return heldWords(of, value);
  return undefined;
}

function ownCssWords(text: string): string {
  const lines = text.split('\n').filter((l) => l.trim()).length;
  if (lines === 0) return 'Own CSS: none';
  return `Own CSS: ${lines} ${lines === 1 ? 'line' : 'lines'}`;
}

/** A value of the site's that the shop holds: as it was, or as it is by now, decided by itself. */
function heldWords(source: SourceName, value: Decision | undefined): string {
  const name = capital(sourceLabels[source]);
  if (typeof value !== 'string') return `${name}: as the site has it`;
  return `${name}: held at ${value.startsWith('#') ? value.toUpperCase() : value || 'none'}`;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Most that a line names one by one. */
const NAMED = 3;

/** What the reading alone changes: the draft's decisions over what was published with, and over what is there now. */
async function rereadLine(
  ctx: Ctx,
  site: Site,
  published: KeptLook | PublishedLook | null,
  draft: KeptLook | null,
): Promise<LookLine[]> {
  if (!published || !('wardrobe' in published)) return [];
  const decisions = draft?.decisions ?? {};
  const then = dress(published.wardrobe, decisions).light;
  const now = dress(await wardrobeFor(ctx, site, draft), decisions).light;
  const changed = tokenNames.filter((name) => then.tokens[name].value !== now.tokens[name].value);
  if (changed.length === 0) return [];
  const named = changed
    .slice(0, NAMED)
    .map(
      (name: TokenName) => `${tokenLabels[name]} ${valueLabel(tokenOf(name).kind, now.tokens[name].value)}`,
    );
  const more = changed.length > NAMED ? `, ${changed.length - NAMED} more` : '';
  return [{ name: REREAD, what: `As your pages show it now: ${named.join(', ')}${more}` }];
}
