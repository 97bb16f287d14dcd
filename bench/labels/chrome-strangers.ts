import type { LabelledSite } from './chrome';

/**
 * Sites that the reading was never made for, marked by hand while looking at the pages before anything was read of them
 * (2026-11-27). Pages were taken by a throw of dice. Every other site was kept aside: it is scored, and no rule is made or
 * changed by looking at it. On 2026-12-02 a throw of dice took half of them out of what is kept, after they were scored a last time.
 */
export interface StrangeSite extends LabelledSite {
  readonly kept: boolean;
}

/** A site with its marks, shortly. */
export const site = (
  kept: boolean,
  [from, name, root]: readonly ['npm' | 'debian', string, string],
  made: string,
  marks: LabelledSite['marks'],
  pages: LabelledSite['pages'],
): StrangeSite => ({ kept, of: { from, name }, root, made, marks, pages });

/** Documents whose only ways are to the page before, the next and the one above. */
export const ways = {
  header: 'div.navheader',
  menu: null,
  main: 'div.section',
  side: null,
  footer: 'div.navfooter',
} as const;
/** The same in a style that draws the bar on phones alone. */
const columnOnly = { header: null, menu: null } as const;
const manual = {
  header: 'div.related',
  menu: 'div.related',
  main: 'div.documentwrapper',
  side: 'div.sphinxsidebar',
  footer: 'div.footer',
} as const;

export const strangeSites: readonly StrangeSite[] = [
  site(
    false,
    ['npm', 'admin-lte@3.2.0', 'package'],
    'a shell of an application: bar above, column of menus with nested lists',
    {
      header: 'nav.main-header',
      menu: 'ul.nav-sidebar',
      main: 'div.content-wrapper',
      side: 'aside.main-sidebar',
      footer: 'footer.main-footer',
    },
    {
      'index.html': {},
      'pages/examples/contact-us.html': {},
      'pages/layout/top-nav.html': { menu: 'div#navbarCollapse > ul.navbar-nav', side: null },
    },
  ),
  site(
    true,
    ['npm', 'black-dashboard', 'package'],
    'a shell of an application: a column of div, a bar inside what is beside it',
    {
      header: 'nav.navbar',
      menu: 'div.sidebar > ul.nav',
      main: 'div.content',
      side: 'div.sidebar',
      footer: 'footer.footer',
    },
    { 'examples/dashboard.html': {}, 'examples/typography.html': {} },
  ),
  site(
    false,
    ['npm', 'material-dashboard', 'package'],
    'a shell of an application whose main element holds bar and footer as well',
    {
      header: 'nav#navbarBlur',
      menu: 'aside#sidenav-main > ul.navbar-nav',
      main: 'div.row .. div',
      side: 'aside#sidenav-main',
      footer: 'footer.footer',
    },
    {
      'pages/dashboard.html': {},
      'pages/billing.html': {},
      'pages/sign-in.html': {
        header: 'div.z-index-sticky',
        menu: 'div.z-index-sticky > ul.navbar-nav',
        main: 'div.my-auto',
        side: null,
      },
    },
  ),
  site(
    false,
    ['npm', 'paper-dashboard', 'package'],
    'a shell of an application, older',
    {
      header: 'nav.navbar',
      menu: 'div.sidebar > ul.nav',
      main: 'div.content',
      side: 'div.sidebar',
      footer: 'footer.footer',
    },
    { 'dashboard.html': {}, 'maps.html': {} },
  ),
  site(
    false,
    ['npm', 'semantic-ui', 'package/examples'],
    'bars of div that are only named, and only as "menu"',
    { header: 'div.fixed', menu: 'div.fixed', main: 'div.main', side: null, footer: 'div.footer' },
    { 'fixed.html': {} },
  ),
  site(
    true,
    ['npm', 'uikit@2', 'package/docs'],
    'bar, column, and a copy of all menus for phones at the end of the page',
    {
      header: 'nav.tm-navbar',
      menu: 'nav.tm-navbar > ul.uk-navbar-nav',
      main: 'div.tm-main',
      side: 'div.tm-sidebar',
      footer: 'div.tm-footer',
    },
    { 'accordion.html': {}, 'documentation_get-started.html': {} },
  ),
  site(
    false,
    ['npm', 'spectre.css', 'package/docs'],
    'the menu in a column, in folds; the front page alone has none',
    {
      header: 'div.docs-navbar',
      menu: 'div.docs-nav',
      main: 'div.docs-content > div.container',
      side: 'div.docs-sidebar',
      footer: 'div.docs-footer',
    },
    {
      'index.html': {
        header: null,
        menu: null,
        main: 'div.section-hero .. div',
        side: null,
        footer: 'footer.section-footer',
      },
      'elements/tables.html': {},
      'components/cards.html': {},
    },
  ),
  site(
    true,
    ['npm', 'argon-design-system-free', 'package'],
    'template: bar with panels for menus, bands',
    {
      header: 'nav#navbar-main',
      menu: 'div#navbar_global > ul.navbar-nav-hover',
      main: 'div.section .. div',
      side: null,
      footer: 'footer.footer',
    },
    {
      'index.html': {},
      'examples/landing.html': {},
      'examples/profile.html': { main: 'section.section .. section' },
    },
  ),
  site(
    false,
    ['npm', 'blk-design-system', 'package'],
    'template: fixed bar whose menu leads elsewhere, title band of div',
    {
      header: 'nav.navbar',
      menu: 'ul.navbar-nav',
      main: 'div.page-header .. section',
      side: null,
      footer: 'footer.footer',
    },
    { 'examples/landing-page.html': {}, 'examples/profile-page.html': {} },
  ),
  site(
    true,
    ['npm', 'material-kit', 'package'],
    'template: see-through bar over a title band',
    {
      header: 'nav#sectionsNav',
      menu: 'nav#sectionsNav > ul.navbar-nav',
      main: 'div.page-header .. div',
      side: null,
      footer: 'footer.footer',
    },
    { 'examples/landing-page.html': {}, 'examples/profile-page.html': {} },
  ),
  site(
    false,
    ['npm', 'soft-ui-design-system', 'package'],
    'template: a bar with wide panels, header elements that are bands of the page',
    {
      header: 'div.z-index-sticky',
      menu: 'ul.navbar-nav',
      main: 'header .. section',
      side: null,
      footer: 'footer.footer',
    },
    {
      'presentation.html': { main: 'header.header-2 .. div' },
      'pages/about-us.html': { header: 'nav.navbar' },
      'pages/contact-us.html': { main: 'header' },
    },
  ),
  site(
    false,
    ['npm', 'startbootstrap-agency', 'package/dist'],
    'one long page, with dialogs behind its footer',
    {
      header: 'nav#mainNav',
      menu: 'div#navbarResponsive > ul.navbar-nav',
      main: 'header.masthead .. section',
      side: null,
      footer: 'footer.footer',
    },
    { 'index.html': {} },
  ),
  site(
    false,
    ['npm', 'startbootstrap-grayscale', 'package/dist'],
    'one long page',
    {
      header: 'nav#mainNav',
      menu: 'div#navbarResponsive > ul.navbar-nav',
      main: 'header.masthead .. section',
      side: null,
      footer: 'footer.footer',
    },
    { 'index.html': {} },
  ),
  site(
    false,
    ['npm', 'startbootstrap-small-business', 'package/dist'],
    'one page',
    { header: 'nav.navbar', menu: 'ul.navbar-nav', main: 'div.px-4', side: null, footer: 'footer.py-5' },
    { 'index.html': {} },
  ),
  site(
    false,
    ['npm', 'startbootstrap-simple-sidebar', 'package/dist'],
    'a column and a bar, names alone',
    {
      header: 'nav.navbar',
      menu: 'div.list-group',
      main: 'h1.mt-4 .. *',
      side: 'div#sidebar-wrapper',
      footer: null,
    },
    { 'index.html': {} },
  ),
  site(
    false,
    ['npm', 'startbootstrap-sb-admin-2', 'package'],
    'a shell of an application: the list of the menu is the column',
    {
      header: 'nav.topbar',
      menu: 'ul#accordionSidebar',
      main: 'div#content > div.container-fluid',
      side: 'ul#accordionSidebar',
      footer: 'footer.sticky-footer',
    },
    { 'index.html': {}, 'blank.html': {}, 'tables.html': {} },
  ),
  site(
    true,
    ['debian', 'apt-doc', 'usr/share/doc/apt-doc'],
    'chapters in three languages',
    { ...ways, main: 'div.chapter' },
    { 'guide.de.html/ch2.html': {}, 'guide.pt.html/ch4.html': {}, 'offline.nl.html/ch2.html': {} },
  ),
  site(false, ['debian', 'aptitude-doc-en', 'usr/share/doc/aptitude/html/en'], 'chapters of a book', ways, {
    'index.html': { main: 'div.book' },
    'pr01s04.html': {},
    'ch01s01s05.html': {},
  }),
  site(
    false,
    ['debian', 'bind9-doc', 'usr/share/doc/bind9-doc/arm'],
    'documents with a column of menus; bar for phones alone',
    {
      header: null,
      menu: 'div.wy-menu',
      main: 'div.document',
      side: 'nav.wy-nav-side',
      footer: 'footer',
    },
    { 'index.html': {}, 'search.html': {}, 'chapter3.html': {} },
  ),
  site(
    false,
    ['debian', 'debian-handbook', 'usr/share/doc/debian-handbook/html/ar-MA'],
    'a book from right to left',
    { header: 'div#banner .. p', menu: null, main: 'div.section', side: null, footer: 'last ul.docnav' },
    {
      'index.html': { main: 'div.book' },
      'sect.asynchronous-task-scheduling-anacron.html': {},
      'workstation.html': { main: 'div.chapter' },
    },
  ),
  site(
    false,
    ['debian', 'debian-handbook', 'usr/share/doc/debian-handbook/html/ja-JP'],
    'a book in Japanese',
    { header: 'div#banner .. p', menu: null, main: 'div.section', side: null, footer: 'last ul.docnav' },
    {
      'index.html': { main: 'div.book' },
      'existing-setup.html': { main: 'div.chapter' },
      'sect.dynamic-routing.html': {},
    },
  ),
  site(
    false,
    ['debian', 'developers-reference', 'usr/share/developers-reference'],
    'long documents, a bar above and below, a column',
    manual,
    { 'index.html': {}, 'best-pkging-practices.html': {}, 'resources.html': {} },
  ),
  site(
    false,
    ['debian', 'gnuplot-doc', 'usr/share/doc/gnuplot/htmldocs'],
    'a row of pictures leads through; text straight in the body',
    { header: 'div.navigation', menu: null, main: 'h2 .. p', side: null, footer: 'last div.navigation' },
    { 'node64.html': { footer: null }, 'node572.html': {} },
  ),
  site(
    false,
    ['debian', 'libglib2.0-doc', 'usr/share/gtk-doc/html/glib'],
    'a bar of signs over each page but the first',
    { header: 'table#top', menu: null, main: 'div.refentry', side: null, footer: 'div.footer' },
    {
      'index.html': { header: null, main: 'div.book' },
      'glib-Singly-Linked-Lists.html': {},
      'glib-Numerical-Definitions.html': {},
    },
  ),
  site(
    true,
    ['debian', 'libsdl2-doc', 'usr/share/doc/libsdl2-doc/html'],
    'a bar with a title; menus come by script',
    { header: 'div#top', menu: null, main: 'div#doc-content', side: null, footer: 'div#nav-path' },
    { 'index.html': {}, 'd4/d91/_r_e_a_d_m_e-n3ds_8md.html': {}, 'globals_eval_t.html': {} },
  ),
  site(
    false,
    ['debian', 'lilypond-doc-html', 'usr/share/doc/lilypond/html/Documentation'],
    'a table of contents in a column behind the text',
    { header: null, menu: 'div#tocframe > ul.toc', main: 'div#main', side: 'div#tocframe', footer: null },
    { 'contributor/regtest-comparison.html': {}, 'music-glossary/triad.html': {} },
  ),
  site(
    true,
    ['debian', 'maint-guide-ja', 'usr/share/doc/maint-guide-ja/html'],
    'chapters in Japanese',
    { ...ways, main: 'div.chapter' },
    { 'advanced.ja.html': { main: 'div.appendix' }, 'build.ja.html': {}, 'modify.ja.html': {} },
  ),
  site(
    true,
    ['debian', 'nodejs-doc', 'usr/share/doc/nodejs/api'],
    'a column of lists, a header inside the other column',
    {
      header: 'header.header',
      menu: 'div#column2',
      main: 'div#apicontent',
      side: 'div#column2',
      footer: null,
    },
    { 'index.html': {}, 'tls.html': {}, 'tracing.html': {} },
  ),
  site(
    false,
    ['debian', 'povray-doc', 'usr/share/doc/povray/html'],
    'a column that is a table, of another table of contents on each page',
    {
      header: 'div.Content > table.HeaderFooter',
      menu: null,
      main: 'div.Content',
      side: 'div.NavPanel',
      footer: null,
    },
    { 'u1_3.html': {}, 't2_1.html': {} },
  ),
  site(
    false,
    ['debian', 'privoxy', 'usr/share/doc/privoxy'],
    'several books of chapters, names in capitals',
    { header: 'div.NAVHEADER', menu: null, main: 'div.SECT1', side: null, footer: 'div.NAVFOOTER' },
    {
      'index.html': { header: null, main: 'div.ARTICLE', footer: null },
      'developer-manual/introduction.html': {},
      'user-manual/configuration.html': {},
    },
  ),
  site(
    false,
    ['debian', 'python-django-doc', 'usr/share/doc/python-django-doc/html'],
    'a menu that is a line of links with strokes between',
    { header: 'div#hd', menu: 'div#global-nav', main: 'div#yui-main', side: 'div#sidebar', footer: 'div#ft' },
    {
      'index.html': { side: null },
      'ref/contrib/gis/geoip2.html': {},
      'internals/contributing/writing-code/working-with-git.html': {},
    },
  ),
  site(
    false,
    ['debian', 'python-flask-doc', 'usr/share/doc/python-flask-doc/html'],
    'a column behind, and a bar that only phones are shown',
    { ...manual, ...columnOnly },
    { 'index.html': {}, 'shell.html': {}, 'extensions.html': {} },
  ),
  site(
    false,
    ['debian', 'python-jinja2-doc', 'usr/share/doc/python-jinja2-doc/html'],
    'a column behind, and a bar that only phones are shown',
    { ...manual, ...columnOnly },
    { 'index.html': {}, 'switching.html': {}, 'license.html': {} },
  ),
];
