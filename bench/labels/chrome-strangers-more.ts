import { site, type StrangeSite, ways } from './chrome-strangers';

/**
 * Marked on 2026-12-02 in the same way: sites chosen and pages thrown by dice before anything was read of them, marked while
 * looking at pictures and elements. Whether a site is kept aside was thrown by dice as well. Pages that only send on to
 * another, and one site whose pages are broken (an element that is never closed swallows them whole), were left out.
 */

/** Nothing but content. */
const bare = { header: null, menu: null, side: null, footer: null } as const;
/** Pages of a manual between two lines of ways to the next, the one before and the one above. */
const lines = { header: 'div.header', menu: null, side: null, footer: 'last div.header' } as const;

export const moreStrangeSites: readonly StrangeSite[] = [
  site(
    false,
    ['debian', 'mkdocs-doc', 'usr/share/doc/mkdocs/html'],
    'a bar with menus in folds, contents in a column, a search in a window of its own at the end',
    {
      header: 'div.navbar',
      menu: 'ul.navbar-nav',
      main: 'div.col-md-9',
      side: 'div.bs-sidebar',
      footer: 'footer',
    },
    { '404.html': { main: 'div.row', side: null }, 'dev-guide/index.html': {} },
  ),
  site(
    false,
    ['debian', 'libeigen3-doc', 'usr/share/doc/libeigen3-dev/html'],
    'a notice above the title, no menu without script',
    { header: 'div .. div#top', menu: null, main: 'div#doc-content', side: null, footer: 'div#nav-path' },
    {
      'unsupported/TensorReductionSycl_8h_source.html': {},
      'unsupported/group__EulerAngles__Module.html': {},
    },
  ),
  site(
    false,
    ['debian', 'libcommons-lang3-java-doc', 'usr/share/doc/libcommons-lang3-java/api'],
    'a bar above, and pages of source without any chrome',
    { header: 'header', menu: 'ul#navbar-top-firstrow', main: 'main', side: null, footer: 'footer' },
    {
      'src-html/org/apache/commons/lang3/ThreadUtils.NamePredicate.html': { ...bare, main: 'main' },
      'org/apache/commons/lang3/reflect/class-use/TypeUtils.html': {},
    },
  ),
  site(
    false,
    ['debian', 'libgtk-4-doc', 'usr/share/doc/libgtk-4-doc/gtk4'],
    'all navigation in a column, without a list',
    { header: null, menu: 'nav.sidebar', main: 'section#main', side: 'nav.sidebar', footer: null },
    { 'method.StringObject.get_string.html': {}, 'method.IconView.enable_model_drag_dest.html': {} },
  ),
  site(
    false,
    ['debian', 'erlang-doc', 'usr/share/doc/erlang-doc/doc'],
    'a column with logo, small lists and chapters in folds; the foot inside the content',
    {
      header: null,
      menu: 'ul.flipMenu',
      main: 'div.innertube',
      side: 'aside#leftnav',
      footer: 'div.footer',
    },
    { 'installation_guide/users_guide.html': {}, 'installation_guide/INSTALL-CROSS.html': {} },
  ),
  site(
    false,
    ['debian', 'postgresql-doc-15', 'usr/share/doc/postgresql-doc-15/html'],
    'chapters of a book, ways in tables',
    { ...ways, main: 'div.sect1' },
    { 'view-pg-shadow.html': {}, 'logicaldecoding-output-plugin.html': {} },
  ),
  site(
    false,
    ['debian', 'gimp-help-fr', 'usr/share/gimp/2.0/help/fr'],
    'chapters of a book in French, ways as pictures',
    ways,
    { 'gimp-tools-selection.html': { main: 'div.sect1' }, 'apcs02s05.html': { main: 'div.sect2' } },
  ),
  site(
    false,
    ['debian', 'installation-guide-amd64', 'usr/share/doc/installation-guide-amd64/ru'],
    'chapters of a book in Russian',
    ways,
    { 'ch07s02.html': { main: 'div.sect1' }, 'ch06.html': { main: 'div.chapter' } },
  ),
  site(
    true,
    ['debian', 'octave-doc', 'usr/share/doc/octave/octave.html'],
    'a manual with lines of ways inside the content',
    { ...lines, main: 'h3.section .. *' },
    { 'Cell-Arrays.html': { footer: null }, 'Integer-Arithmetic.html': { main: 'h4.subsection .. *' } },
  ),
  site(
    false,
    ['debian', 'postfix-doc', 'usr/share/doc/postfix/html'],
    'pages without any chrome',
    { ...bare, main: 'h1 .. *' },
    { 'SMTPUTF8_README.html': {}, 'TLS_README.html': {} },
  ),
  site(
    false,
    ['debian', 'zsh-doc', 'usr/share/doc/zsh-common/html'],
    'a manual with lines of ways before every section',
    {
      header: 'table.header',
      menu: null,
      side: null,
      main: 'h1.chapter .. *',
      footer: 'last table.header .. *',
    },
    { 'Completion-Using-compctl.html': {} },
  ),
  site(
    false,
    ['debian', 'libreoffice-help-ko', 'usr/share/libreoffice/help/ko'],
    'pages in Korean whose columns a script fills',
    {
      header: 'header#TopLeftHeader',
      menu: null,
      main: 'div#DisplayArea',
      side: 'aside.leftside',
      footer: 'footer',
    },
    { 'text/scalc/01/05030000.html': {} },
  ),
  site(
    false,
    ['debian', 'libvirt-doc', 'usr/share/doc/libvirt-doc/html'],
    'the header comes last in the source and stands above by style',
    { header: 'div#nav', menu: 'div#jumplinks', main: 'div#body', side: null, footer: 'div#footer' },
    { 'drvvmware.html': {}, 'manpages/virt-login-shell.html': {} },
  ),
  site(
    false,
    ['debian', 'libxml2-doc', 'usr/share/doc/libxml2/html'],
    'tables in tables, menus under titles in a column',
    { header: 'table', menu: 'ul', main: 'td@13', side: 'td@7', footer: null },
    { 'html/libxml-lib.html': { main: 'td@15' }, 'namespaces.html': {} },
  ),
  site(
    false,
    ['debian', 'graphviz-doc', 'usr/share/doc/graphviz/html'],
    'pages without any chrome, each in a style of its own',
    { ...bare, main: 'h2 .. *' },
    { 'winbuild.html': {}, 'todo.html': { main: 'center .. *' } },
  ),
  site(
    false,
    ['debian', 'swi-prolog-doc', 'usr/share/swi-prolog/doc/Manual'],
    'a line of pictures above, nothing else',
    { ...bare, header: 'div.navigate', main: 'h2 .. *' },
    { 'basics.html': {}, 'chr-examples.html': {} },
  ),
  site(
    false,
    ['debian', 'nut-doc', 'usr/share/doc/nut-doc/html/user-manual'],
    'chapters of a book, two lines at the foot',
    { ...ways, footer: 'div.nut_footer .. div.navfooter' },
    { 'ar01s01.html': {}, 'apbs02.html': {} },
  ),
  site(
    true,
    ['debian', 'grass-doc', 'usr/share/doc/grass-doc/html'],
    'a logo above, the only menu a line of links at the foot',
    { header: 'div#container > a', menu: 'p@-2', main: 'h2 .. p@-3', side: null, footer: 'p@-2 .. *' },
    { 'postscript.html': { main: 'h2 .. table' }, 'r.grow.distance.html': {} },
  ),
  site(
    true,
    ['debian', 'maxima-doc', 'usr/share/doc/maxima-doc/html'],
    'a manual with lines of ways inside the content',
    { ...lines, main: 'h3.section .. *' },
    { 'maxima_150.html': { main: 'h2.chapter .. *' }, 'maxima_35.html': {} },
  ),
  site(
    false,
    ['debian', 'asciidoctor-doc', 'usr/share/doc/asciidoctor-doc'],
    'a column of small boxes, one of which is the menu of the site',
    { header: null, menu: 'div#project-navigation', main: 'main', side: 'nav', footer: 'footer' },
    {
      'html/Asciidoctor/Extensions/Preprocessor.html': {},
      'html/Asciidoctor/SyntaxHighlighter/HtmlPipelineAdapter.html': {},
    },
  ),
  site(
    false,
    ['debian', 'debian-faq', 'usr/share/doc/debian/FAQ'],
    'chapters of a book',
    { ...ways, main: 'div.chapter' },
    { 'redistributing.en.html': {}, 'pkgtools.en.html': {} },
  ),
  site(
    false,
    ['debian', 'cargo-doc', 'usr/share/doc/cargo/doc'],
    'contents of the page in a column, no menu; a bar for phones alone',
    { ...bare, main: 'main' },
    { 'syn/struct.ForeignItemType.html': { side: 'nav.sidebar' }, 'src/serde_derive/this.rs.html': {} },
  ),
  site(
    true,
    ['debian', 'libboost1.74-doc', 'usr/share/doc/libboost1.74-doc/doc/html'],
    'a table for a menu, ways as pictures, authors below the content',
    {
      header: 'table .. div.spirit-nav@1',
      menu: 'table',
      main: 'div.refentry',
      side: null,
      footer: 'table@-1 .. *',
    },
    { 'boost/accumulators/impl/weighted_median_impl.html': {}, 'boost/bad_any_cast.html': {} },
  ),
  site(
    false,
    ['npm', 'gentelella', 'package/dist/production'],
    'a shell of an application, its menu of buttons and blocks',
    {
      header: 'header.topbar',
      menu: 'nav.sidebar-nav',
      main: 'div.page-wrapper',
      side: 'aside.sidebar',
      footer: 'footer',
    },
    { 'orders.html': {}, 'inbox.html': {} },
  ),
  site(
    false,
    ['npm', 'tabler-ui', 'package/dist'],
    'two bars above, two below, all of div',
    {
      header: 'div.header .. div#headerMenuCollapse',
      menu: 'ul.nav-tabs',
      main: 'div.my-3',
      side: null,
      footer: 'div.footer .. footer',
    },
    { 'gallery.html': {}, 'profile.html': {} },
  ),
  site(
    true,
    ['npm', 'flat-ui', 'package'],
    'pages that stand alone, contents in a column on one of them',
    { ...bare, main: 'h1.demo-headline .. div.container' },
    { 'components.html': { side: 'ul.demo-sidebar' }, 'getting-started.html': {} },
  ),
  site(
    true,
    ['npm', 'gentelella-rtl', 'package'],
    'a shell of an application from right to left',
    {
      header: 'div.top_nav',
      menu: 'div#sidebar-menu',
      main: 'div.right_col',
      side: 'div.left_col',
      footer: 'footer',
    },
    { 'public/form_advanced.html': {}, 'public/media_gallery.html': {} },
  ),
  site(
    false,
    ['debian', 'mailman3-doc', 'usr/share/doc/mailman3/html'],
    'a column with logo, search and menu; a bar for phones alone',
    { header: null, menu: 'div.wy-menu', main: 'div.document', side: 'nav.wy-nav-side', footer: 'footer' },
    { 'src/mailman/handlers/docs/dmarc-mitigations.html': {}, 'src/mailman/docs/database.html': {} },
  ),
  site(
    true,
    ['debian', 'qtbase5-doc-html', 'usr/share/qt5/doc/qtwidgets'],
    'a line of crumbs above, an element called header around everything',
    { header: 'div.navigationbar', menu: null, main: 'div.mainContent', side: null, footer: 'div.footer' },
    { 'qtwidgets-painting-transformations-example.html': {}, 'qtextbrowser-obsolete.html': {} },
  ),
  site(
    false,
    ['npm', 'coreui.io', 'package/Static_Full_Project_GULP'],
    'a shell of an application: a bar with a few ways, the menu in a column, a second column out of sight',
    {
      header: 'header',
      menu: 'nav.sidebar-nav',
      main: 'main',
      side: 'div.sidebar',
      footer: 'footer.app-footer',
    },
    { 'components-cards.html': {}, 'components-switches.html': {} },
  ),
];
