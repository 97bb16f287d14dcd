import { ancestors, attr, type Element } from '../html/tree';

/** What an element says of itself: by what it is, or by the names its maker gave it. */
export type Sign = 'header' | 'menu' | 'main' | 'side' | 'footer' | 'crumbs';
export const signNames: readonly Sign[] = ['header', 'menu', 'main', 'side', 'footer', 'crumbs'];

/** Names an element was given, for rules that go by them. */
export const namesOf = (el: Element): string[] =>
  [attr(el, 'id') ?? '', ...(attr(el, 'class') ?? '').split(/\s+/), attr(el, 'name') ?? ''].filter(Boolean);

const sectioning = new Set(['article', 'aside', 'main', 'nav', 'section']);
const outsideSections = (el: Element): boolean => {
  for (const up of ancestors(el)) if (sectioning.has(up.tagName)) return false;
  return true;
};

const roles: Readonly<Record<string, Sign>> = {
  banner: 'header',
  navigation: 'menu',
  main: 'main',
  complementary: 'side',
  contentinfo: 'footer',
};

/** By element or ARIA role; header and footer are the page's own only outside sectioning content (HTML-AAM 1.0). */
export function meaningOf(el: Element): Sign | undefined {
  const role = roles[(attr(el, 'role') ?? '').trim().toLowerCase()];
  // A navigation that is called a side column is one: its links are a table of contents.
  if (role === 'menu' && nameSignOf(el) === 'side') return 'side';
  return role ?? meaningOfTag[el.tagName]?.(el);
}

const isCrumbs = (nav: Element): boolean =>
  /crumb/i.test(`${attr(nav, 'aria-label') ?? ''} ${namesOf(nav).join(' ')}`);

const meaningOfTag: Readonly<Record<string, (el: Element) => Sign | undefined>> = {
  main: () => 'main',
  nav(el) {
    if (nameSignOf(el) === 'side') return 'side';
    return isCrumbs(el) ? 'crumbs' : 'menu';
  },
  aside: (el) => (outsideSections(el) || inMainOnly(el) ? 'side' : undefined),
  header: (el) => (outsideSections(el) ? 'header' : undefined),
  footer: (el) => (outsideSections(el) ? 'footer' : undefined),
};

/** An aside of the main part itself is a side column; one inside an article belongs to its text. */
const inMainOnly = (el: Element): boolean => {
  for (const up of ancestors(el)) if (up.tagName === 'article' || up.tagName === 'section') return false;
  return true;
};

/** Words that makers of pages name regions by, in the languages they do it in; common practice. */
const words: Readonly<Record<string, Sign>> = Object.fromEntries(
  Object.entries({
    header:
      'header head masthead banner top topbar toparea pagetop siteheader pageheader kopf kopfzeile entete cabecera testata logo brand title-area',
    menu: 'nav navi navigation navbar navbox menu mainmenu topmenu mainnav topnav sitenav globalnav hnav tabs menubar menue',
    main: 'main content contents maincontent maincol main-content page-content pagecontent body-content document inhalt contenu contenido text center-column maintext primary',
    side: 'side sidebar sidecol sidecolumn sidenav leftcol leftcolumn rightcol rightcolumn left right leftbar rightbar leftnav rightnav lefthand secondary aside toc marginale spalte',
    footer:
      'footer foot bottom pagefoot sitefooter pagefooter fuss fusszeile fuszeile pied piedpage pie copyright credits colophon legal bottombar',
    crumbs: 'breadcrumb breadcrumbs crumbs crumb path navpath youarehere',
  }).flatMap(([sign, list]) => list.split(' ').map((word) => [word, sign as Sign])),
);

const affix =
  /^(?:site|page|global|main|the|my|l|wrapper|container|area|region|block|div|id)[-_]|[-_](?:wrapper|container|area|region|block|inner|outer|wrap|box|section|div)$/g;

/** Columns are often called so in the last word of a longer name, or as one of its words. */
const columnName =
  /(^|[-_])(side|side-?(bar|nav|menu|col|column))$|(^|[-_])(sidebar|sidenav)[-_](nav|menu|left|right)$/;

/** What the menu is called after what it leads through. */
const menuName = /^(site|main|project|primary|global|top)[-_](nav|navigation|menu)$/;

/** By id, class or name attribute, with the usual prefixes and suffixes taken off. */
export function nameSignOf(el: Element): Sign | undefined {
  for (const name of namesOf(el)) {
    const bare = name.replace(/([a-z])([A-Z])/g, '$1-$2').toLowerCase();
    const tail = /(?:sidebar|header|footer)$/.exec(bare)?.[0];
    const sign =
      words[bare] ??
      words[bare.replace(/[-_\d]/g, '')] ??
      words[bare.replace(affix, '').replace(/[-_\d]/g, '')] ??
      (tail && bare.length < 20 ? words[tail] : undefined) ??
      (columnName.test(bare) ? 'side' : undefined) ??
      (menuName.test(bare) ? 'menu' : undefined);
    if (sign) return sign;
    if (bare.includes('breadcrumb')) return 'crumbs';
  }
  return undefined;
}
