import { lookOfAttributes } from '../look/old-pages';
import { readSource, textOf } from '../html/source';
import { attr, descendants, type Element, rawText } from '../html/tree';
import { FileIndex, type PagePath, resolveLink } from './paths';
import type { ParsedPage } from './read-page';
import type { SiteFiles } from './read-site';
import { readStyle } from './styles';

/** Deeper than this no sheet imports another. */
const DEEPEST = 5;

/**
 * Style sheets as pages bring them: linked ones with what they import in its place, those in the page, and old attributes
 * before all.
 */
export class PageSheets {
  readonly #texts = new Map<string, string>();
  readonly #index: FileIndex;

  constructor(private readonly files: Pick<SiteFiles, 'paths' | 'read'>) {
    this.#index = new FileIndex(files.paths);
  }

  async of(page: ParsedPage): Promise<string[]> {
    const texts = [lookOfAttributes(page.doc, page.source)];
    for (const el of descendants(page.doc)) {
      if (el.tagName === 'style') texts.push(inMedia(rawStyle(el), attr(el, 'media')));
      if (
        el.tagName !== 'link' ||
        !/\bstylesheet\b/i.test(attr(el, 'rel') ?? '') ||
        /\balternate\b/i.test(attr(el, 'rel') ?? '')
      )
        continue;
      const path = resolveLink(page.path, attr(el, 'href') ?? '', this.#index.find);
      if (path) texts.push(inMedia(await this.#text(path, 0), attr(el, 'media')));
    }
    return texts;
  }

  async #text(path: PagePath, depth: number): Promise<string> {
    const known = this.#texts.get(path);
    if (known !== undefined) return known;
    this.#texts.set(path, '');
    const source = readSource(await this.files.read(path));
    const own = textOf(source, source.structure);
    const imported: string[] = [];
    for (const href of depth < DEEPEST && hasImports.test(own) ? readStyle(own).imports : []) {
      const next = resolveLink(path, href, this.#index.find);
      if (next) imported.push(await this.#text(next, depth + 1));
    }
    const text = [...imported, own].join('\n');
    this.#texts.set(path, text);
    return text;
  }
}

/** Most sheets import nothing, and need not be parsed to know it. */
const hasImports = /@import/i;

const rawStyle = (el: Element): string => {
  const [first] = el.childNodes;
  return first && 'value' in first ? first.value : rawText(el);
};

const inMedia = (text: string, media: string | undefined): string =>
  media ? `@media ${media}{${text}}` : text;
